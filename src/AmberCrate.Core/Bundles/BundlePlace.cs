using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Bundles;

/// <summary>Where a bundle lies that another builds on.</summary>
public static class BundlePlace
{
    /// <summary>What such a place looks like, for messages.</summary>
    public const string Expected = "a file beside this one, an https: address, or catalogue:bundle";

    /// <summary>Why a text is no place of a bundle; null where it is one.</summary>
    public static string? Fault(string text)
    {
        if (Address.IsOfWeb(text) && !Address.IsPlain(text))
            return Uri.TryCreate(text, UriKind.Absolute, out var address) && address.UserInfo.Length == 0
                ? null
                : $"expected {Expected}";
        if (Address.Is(text))
            return $"expected {Expected}; only https: is safe from changes on the way";
        if (InCatalogue(text) is not null) return null;
        if (text.StartsWith('/') || text.Split('/').Contains(".."))
            return $"expected {Expected}; a file elsewhere may be anybody's";
        return text.Length is > 0 and <= 1000 && !text.Any(c => char.IsControl(c) || c == '\\') ? null : $"expected {Expected}";
    }

    /// <summary>The catalogue and name where a text is <c>catalogue:bundle</c>; null for anything else.</summary>
    public static (CatalogueName Catalogue, string Name)? InCatalogue(string text) =>
        text.Split(':') is [var catalogue, var name] && CatalogueName.TryParse(catalogue, out var parsed)
        && BundleListing.IsName(name)
            ? (parsed, name)
            : null;

    /// <summary>Whether a text is an address rather than a file.</summary>
    public static bool IsAddress(string text) => Address.IsOfWeb(text);
}
