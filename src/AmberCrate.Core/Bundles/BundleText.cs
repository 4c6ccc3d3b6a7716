using System.Text;

namespace AmberCrate.Core.Bundles;

/// <summary>Pieces of the text of a bundle.</summary>
internal static class BundleText
{
    /// <summary>Writes a TOML basic string.</summary>
    public static string Quote(string value)
    {
        var quoted = new StringBuilder("\"");
        foreach (var c in value)
        {
            if (c is '"' or '\\') quoted.Append('\\').Append(c);
            else if (char.IsControl(c)) quoted.Append($"\\u{(int)c:X4}");
            else quoted.Append(c);
        }

        return quoted.Append('"').ToString();
    }

    /// <summary>Writes an array of strings on one line.</summary>
    public static string Quote(IEnumerable<string> values) => $"[{string.Join(", ", values.Select(Quote))}]";
}
