using System.Diagnostics.CodeAnalysis;

namespace AmberCrate.Core.Values;

/// <summary>Where an artifact lies: a path relative to its catalogue, or an absolute http, https or file address.</summary>
public sealed record ArtifactLocation
{
    /// <summary>What a location must look like, for messages.</summary>
    public const string Expected = "a path relative to the catalogue that stays inside it, or an http:, https: or file: address";

    private ArtifactLocation(string text, Uri? absolute)
    {
        Text = text;
        Absolute = absolute;
    }

    /// <summary>The location as written.</summary>
    public string Text { get; }

    /// <summary>The address, or null where the location is relative to the catalogue.</summary>
    public Uri? Absolute { get; }

    /// <summary>The last part of the path.</summary>
    public string FileName => Uri.UnescapeDataString((Absolute?.AbsolutePath ?? Text).Split('/')[^1]);

    /// <summary>Reads a location; false when it is not one.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out ArtifactLocation? location)
    {
        location = null;
        if (Address.Is(text))
        {
            var known = Uri.TryCreate(text, UriKind.Absolute, out var uri)
                && (uri.Scheme == Uri.UriSchemeHttp || uri.Scheme == Uri.UriSchemeHttps || uri.Scheme == Uri.UriSchemeFile)
                && uri.UserInfo.Length == 0;
            if (known) location = new ArtifactLocation(text, uri);
        }
        else if (InsidePath.TryParse(text, out _))
        {
            location = new ArtifactLocation(text, null);
        }

        return location is not null;
    }

    /// <summary>Reads a location.</summary>
    /// <exception cref="MalformedException">The text is not a location.</exception>
    public static ArtifactLocation Parse(string text) =>
        TryParse(text, out var location) ? location : throw new MalformedException($"expected {Expected}, found \"{text}\"");

    /// <summary>The full address, taken from the catalogue's own where the location is relative.</summary>
    /// <param name="catalogue">The address of the catalogue's folder, ending in <c>/</c>.</param>
    public Uri Resolve(Uri catalogue) =>
        Absolute ?? new Uri(catalogue, string.Join('/', Text.Split('/').Select(Uri.EscapeDataString)));

    /// <inheritdoc/>
    public override string ToString() => Text;
}
