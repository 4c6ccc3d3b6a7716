namespace AmberCrate.Core.Values;

/// <summary>Tells addresses from paths. An address has a scheme and <c>://</c> (RFC 3986); anything else is a path.</summary>
public static class Address
{
    private const string Mark = "://", Http = "http://", Https = "https://";

    /// <summary>Whether a text is an address, and not a path.</summary>
    public static bool Is(string text) => text.Contains(Mark, StringComparison.Ordinal);

    /// <summary>Whether a text is an address of the web.</summary>
    public static bool IsOfWeb(string text) => IsPlain(text) || text.StartsWith(Https, StringComparison.OrdinalIgnoreCase);

    /// <summary>Whether a text is an address of the web without encryption: anybody on the way can change the answer.</summary>
    public static bool IsPlain(string text) => text.StartsWith(Http, StringComparison.OrdinalIgnoreCase);
}
