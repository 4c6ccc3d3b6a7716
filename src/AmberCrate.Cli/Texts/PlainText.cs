namespace AmberCrate.Cli.Texts;

/// <summary>Times, dates and addresses as they are written everywhere: in documents and for people.</summary>
internal static class PlainText
{
    /// <summary>A date as ISO 8601 has it.</summary>
    public static string Date(DateOnly date) => date.ToString("yyyy-MM-dd");

    /// <summary>A time as RFC 3339 has it.</summary>
    public static string Time(DateTimeOffset time) => time.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'");

    /// <summary>An address as people write it: a plain path for files.</summary>
    public static string Shown(Uri address) => address.IsFile ? address.LocalPath : address.AbsoluteUri;
}
