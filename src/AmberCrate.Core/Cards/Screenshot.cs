using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>A picture of the app at work, after AppStream's <c>screenshots</c>.</summary>
/// <param name="Address">Where it lies: an http: or https: address, or the path of a file beside the cards.</param>
/// <param name="Caption">What it shows; null if nothing is said.</param>
public sealed record Screenshot(string Address, string? Caption)
{
    /// <summary>What an address must look like, for messages.</summary>
    public const string Expected =
        "an http: or https: address, or the path of a .png, .jpg, .webp or .avif file beside the cards";

    private static readonly string[] Endings = [".png", ".jpg", ".jpeg", ".webp", ".avif"];

    /// <summary>The path of the file beside the cards; null where it lies elsewhere.</summary>
    public string? BesideCards => IsPath(Address) ? Address : null;

    /// <summary>Whether a text is the path of a picture beside the cards.</summary>
    internal static bool IsPath(string text) => !Values.Address.Is(text)
        && InsidePath.TryParse(text, out _)
        && Endings.Any(ending => text.EndsWith(ending, StringComparison.OrdinalIgnoreCase));
}
