using AmberCrate.Core.Values;

namespace AmberCrate.Core.Versions;

/// <summary>How a user refers to an app: <c>[catalogue:]app[@selector]</c>.</summary>
/// <param name="Catalogue">The catalogue to take it from; null for any.</param>
/// <param name="Name">The app's id, or its name as the user remembers it.</param>
/// <param name="Selector">The releases accepted; null where the user did not say.</param>
public sealed record AppReference(CatalogueName? Catalogue, string Name, VersionSelector? Selector)
{
    /// <summary>What a reference looks like, for messages.</summary>
    public const string Expected = "[catalogue:]app[@selector], such as scrim-paint, scrim-paint@4.2.x or guild:scrim-paint@lts";

    /// <summary>The name as an id; null where it is none, so that only a name of an app can be meant.</summary>
    public AppId? Id => AppId.TryParse(Name, out var id) ? id : null;

    /// <summary>Reads a reference.</summary>
    /// <exception cref="MalformedException">The text is not a reference; the message says which part is at fault.</exception>
    public static AppReference Parse(string text)
    {
        var name = text.Trim();
        VersionSelector? selector = null;
        CatalogueName? catalogue = null;
        var at = name.LastIndexOf('@');
        if (at >= 0)
        {
            selector = VersionSelector.Parse(name[(at + 1)..].Trim());
            name = name[..at].Trim();
        }

        var colon = name.IndexOf(':', StringComparison.Ordinal);
        if (colon >= 0)
        {
            catalogue = CatalogueName.Parse(name[..colon].Trim());
            name = name[(colon + 1)..].Trim();
        }

        var plain = name.Length is > 0 and <= 200 && !name.Any(c => char.IsControl(c) || c is '@' or ':');
        return plain ? new AppReference(catalogue, name, selector) : throw new MalformedException($"expected {Expected}");
    }

    /// <inheritdoc/>
    public override string ToString() =>
        $"{(Catalogue is null ? "" : Catalogue + ":")}{Name}{(Selector is null ? "" : "@" + Selector)}";
}
