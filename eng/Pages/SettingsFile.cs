using System.Text;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Pages;

/// <summary>The configuration file that comes with a package: every setting, as a comment.</summary>
internal static class SettingsFile
{
    private const int Width = 78;

    /// <summary>Its text.</summary>
    public static string Text()
    {
        var text = new StringBuilder("""
            # Settings of acrate for everybody who uses this machine. A person's own
            # acrate.toml in ~/.config/amber-crate counts before this file, except with
            # --all-users. Options and variables count before both.
            # Remove the # in front of a key to set it. "acrate settings" shows every
            # value and where it comes from.

            """);
        foreach (var key in SettingKey.All)
        {
            text.Append('\n');
            foreach (var line in Wrapped($"{key.Meaning} Expected: {key.Expected}.")) text.Append("# ").Append(line).Append('\n');
            text.Append("# ").Append(key.Name).Append(" = ").Append(Value(key.Default)).Append('\n');
        }

        return text.ToString();
    }

    private static string Value(string text) => text.All(char.IsAsciiDigit) ? text : $"\"{text}\"";

    private static IEnumerable<string> Wrapped(string text)
    {
        var line = "";
        foreach (var word in text.Split(' '))
        {
            if (line.Length + word.Length >= Width)
            {
                yield return line;
                line = "";
            }

            line += line.Length == 0 ? word : $" {word}";
        }

        yield return line;
    }
}
