using AmberCrate.Core.Values;

namespace AmberCrate.Core.Catalogues;

/// <summary>A bundle that a published catalogue carries, as its entry document lists it.</summary>
/// <param name="Name">Its name in the catalogue: what comes before <c>.bundle.toml</c>.</param>
/// <param name="Sha256">The digest of the file; it is also the file's name.</param>
/// <param name="Size">Its size in bytes.</param>
public sealed record BundleListing(string Name, Sha256Digest Sha256, long Size)
{
    /// <summary>The largest bundle that is accepted, in bytes.</summary>
    public const long MaxSize = 1 << 20;

    /// <summary>The most bundles of a catalogue.</summary>
    public const int Most = 1000;

    /// <summary>Whether a text can be the name of a bundle in a catalogue.</summary>
    public static bool IsName(string text) => text.Length is > 0 and <= 64
        && text.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c is '-' or '_')
        && char.IsAsciiLetterOrDigit(text[0]);

    /// <summary>Where the bundle lies, relative to the entry document.</summary>
    public string Path => $"bundles/{Sha256.Hex}.{Name}.bundle.toml";
}
