using System.Buffers;
using System.Text;
using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Machine;

/// <summary>Writes desktop entries after the freedesktop Desktop Entry specification 1.5.</summary>
public static class DesktopEntryText
{
    private const string MainGroup = "[Desktop Entry]", ExecKey = "Exec=", TryExecKey = "TryExec=";

    /// <summary>
    /// Keys of a shipped entry that are not taken over: another type and its address (a link would open whatever address it
    /// names), a working folder (programs load modules from there), and starting as another user.
    /// </summary>
    private static readonly HashSet<string> Dropped = new(StringComparer.Ordinal)
    {
        "Type", "URL", "Path", "X-KDE-SubstituteUID", "X-KDE-Username", "X-KDE-RootOnly",
    };

    private static readonly SearchValues<char> Reserved = SearchValues.Create(" \t\n\"'\\><~|&;$*?#()`");

    /// <summary>Writes an entry from an app's card.</summary>
    public static string Compose(AppCard card, DesktopEntryStart start)
    {
        var text = new StringBuilder();
        // The lowest version that has all keys below: a validator that is older than the newest specification accepts it.
        var version = card.Keywords.Count > 0 ? "1.1" : "1.0";
        text.Append(MainGroup).Append("\nType=Application\nVersion=").Append(version).Append('\n');
        text.Append("Name=").Append(EscapeValue(card.Name)).Append('\n');
        text.Append("Comment=").Append(EscapeValue(card.Summary)).Append('\n');
        text.Append("Exec=").Append(Exec(start.Command, start.Arguments)).Append('\n');
        text.Append("TryExec=").Append(EscapeValue(start.Command)).Append('\n');
        if (start.Icon is not null) text.Append("Icon=").Append(EscapeValue(start.Icon)).Append('\n');
        if (card.Categories.Count > 0) text.Append("Categories=").Append(List(card.Categories)).Append('\n');
        if (card.Keywords.Count > 0) text.Append("Keywords=").Append(List(card.Keywords)).Append('\n');
        text.Append("Terminal=").Append(card.Kind == AppKind.ConsoleApp ? "true" : "false").Append('\n');
        return text.ToString();
    }

    /// <summary>Writes an entry that makes the desktop start a command in the background.</summary>
    public static string ComposeAutostart(AppCard card, DesktopEntryStart start) =>
        Compose(card with { Categories = [], Keywords = [] }, start) + "NoDisplay=true\n";

    /// <summary>
    /// Takes over an entry that came with the app: in every group Exec starts our command with the arguments it had,
    /// in the main group TryExec and Icon are set, and everything else stays, comments and translations included. Keys that would
    /// do something else than start the command are dropped.
    /// </summary>
    public static string Adapt(string shipped, DesktopEntryStart start)
    {
        var lines = new List<string>();
        var (inMainGroup, hasType) = (false, false);
        var mainEnd = -1;
        foreach (var line in shipped.ReplaceLineEndings("\n").TrimEnd('\n').Split('\n'))
        {
            if (line.StartsWith('[')) inMainGroup = line.Trim() == MainGroup;
            var key =
                line.Contains('=', StringComparison.Ordinal) ? line[..line.IndexOf('=', StringComparison.Ordinal)].Trim() : "";
            if (inMainGroup && (key == "TryExec" || (key == "Icon" && start.Icon is not null))) continue;
            // Activation over D-Bus would need a service file, which is not placed: the entry must start by its Exec.
            if (inMainGroup && key == "DBusActivatable") continue;
            if (key == "Type" && inMainGroup && !hasType)
            {
                lines.Add("Type=Application");
                hasType = true;
                mainEnd = lines.Count;
                continue;
            }

            if (Dropped.Contains(key.Split('[')[0].TrimEnd())) continue;
            lines.Add(key == "Exec"
                ? "Exec=" + Exec(start.Command, inMainGroup && start.Arguments.Length > 0 ? start.Arguments : ArgumentsOf(line))
                : line);
            if (inMainGroup && line.Trim().Length > 0) mainEnd = lines.Count;
        }

        if (mainEnd < 0) lines.Insert(mainEnd = 0, MainGroup);
        if (mainEnd == 0) mainEnd = 1;
        if (!hasType) lines.Insert(mainEnd++, "Type=Application");
        lines.Insert(mainEnd, "TryExec=" + EscapeValue(start.Command));
        if (start.Icon is not null) lines.Insert(mainEnd + 1, "Icon=" + EscapeValue(start.Icon));
        return string.Join('\n', lines) + "\n";
    }

    /// <summary>The folder where an entry finds a command; null where it does not start that command by its path.</summary>
    public static string? FolderOf(string text, string command)
    {
        var line = text.Split('\n').FirstOrDefault(line => line.StartsWith(TryExecKey, StringComparison.Ordinal));
        var path = line is null ? null : UnescapeValue(line[TryExecKey.Length..]);
        return path?.StartsWith('/') == true && path.EndsWith("/" + command, StringComparison.Ordinal)
            ? path[..^(command.Length + 1)]
            : null;
    }

    /// <summary>
    /// An entry that finds its commands in another folder. Paths are read and written as the specification says.
    /// </summary>
    /// <param name="text">The entry.</param>
    /// <param name="before">The folder where it finds them now.</param>
    /// <param name="after">The folder where they are.</param>
    public static string WithFolder(string text, string before, string after) =>
        string.Join('\n', text.Split('\n').Select(line => WithFolderIn(line, before + "/", after + "/")));

    private static string WithFolderIn(string line, string before, string after)
    {
        if (line.StartsWith(TryExecKey, StringComparison.Ordinal))
            return UnescapeValue(line[TryExecKey.Length..]) is var path && path.StartsWith(before, StringComparison.Ordinal)
                ? TryExecKey + EscapeValue(after + path[before.Length..])
                : line;
        if (!line.StartsWith(ExecKey, StringComparison.Ordinal)) return line;
        var arguments = ArgumentsOf(line);
        var value = line[ExecKey.Length..].Trim();
        var program = ProgramIn(value[..(value.Length - arguments.Length)].Trim());
        return program.StartsWith(before, StringComparison.Ordinal)
            ? ExecKey + Exec(after + program[before.Length..], arguments)
            : line;
    }

    /// <summary>The program of an Exec value: escapes of values, then quotes, then <c>%%</c>.</summary>
    private static string ProgramIn(string value)
    {
        var text = UnescapeValue(value);
        if (text.StartsWith('"'))
        {
            var plain = new StringBuilder();
            for (var at = 1; at < text.Length && text[at] != '"'; at++)
            {
                if (text[at] == '\\' && at + 1 < text.Length) at++;
                plain.Append(text[at]);
            }

            text = plain.ToString();
        }

        return text.Replace("%%", "%", StringComparison.Ordinal);
    }

    /// <summary>The faults of an entry that is to start a program, in words; empty if nothing is.</summary>
    public static IEnumerable<string> Faults(string text)
    {
        string? group = null;
        var keys = new HashSet<string>(StringComparer.Ordinal);
        var lines = text.ReplaceLineEndings("\n").Split('\n');
        for (var at = 0; at < lines.Length; at++)
        {
            var line = lines[at].Trim();
            if (line.Length == 0 || line.StartsWith('#')) continue;
            var equals = line.IndexOf('=', StringComparison.Ordinal);
            if (line.StartsWith('[') && line.EndsWith(']')) group = line;
            else if (equals < 1 || !line[..equals].TrimEnd().All(letter => char.IsAsciiLetterOrDigit(letter) || letter is '-'
                or '[' or ']' or '_' or '@' or '.')) yield return $"line {at + 1} is neither a group nor a key with a value";
            else if (group is null) yield return $"line {at + 1} comes before the first group";
            else if (!keys.Add($"{group}{line[..equals].TrimEnd()}"))
                yield return $"line {at + 1} says {line[..equals].TrimEnd()} again";
        }

        foreach (var key in new[] { "Type", "Name", "Exec" })
        {
            if (!keys.Contains(MainGroup + key)) yield return $"{MainGroup} has no {key}";
        }
    }

    /// <summary>An Exec value: the command quoted where it must be, then the arguments as they are.</summary>
    private static string Exec(string command, string arguments)
    {
        var program = command.Replace("%", "%%", StringComparison.Ordinal);
        if (program.AsSpan().ContainsAny(Reserved))
        {
            var quoted = new StringBuilder("\"");
            foreach (var c in program)
            {
                if (c is '"' or '`' or '$' or '\\') quoted.Append('\\');
                quoted.Append(c);
            }

            program = quoted.Append('"').ToString();
        }

        return EscapeValue(program) + (arguments.Length == 0 ? "" : " " + arguments);
    }

    /// <summary>What is after the program in an Exec line, as it is written.</summary>
    private static string ArgumentsOf(string line)
    {
        var value = line[(line.IndexOf('=', StringComparison.Ordinal) + 1)..].Trim();
        if (!value.StartsWith('"'))
        {
            var space = value.IndexOf(' ', StringComparison.Ordinal);
            return space < 0 ? "" : value[space..].Trim();
        }

        for (var at = 1; at < value.Length;)
        {
            var letter = Next(value, ref at);
            if (letter == '\\') Next(value, ref at);
            else if (letter == '"') return value[at..].Trim();
        }

        return "";
    }

    /// <summary>
    /// The next letter of a value. There <c>\\</c> means one backslash, which may escape a quote.
    /// </summary>
    private static char Next(string value, ref int at)
    {
        if (at >= value.Length) return '\0';
        var letter = value[at++];
        return letter == '\\' && at < value.Length ? value[at++] : letter;
    }

    private static string List(IEnumerable<string> items) =>
        string.Concat(items.Select(item => EscapeValue(item).Replace(";", "\\;", StringComparison.Ordinal) + ";"));

    private static string EscapeValue(string value) => value
        .Replace("\\", "\\\\", StringComparison.Ordinal)
        .Replace("\n", "\\n", StringComparison.Ordinal)
        .Replace("\t", "\\t", StringComparison.Ordinal)
        .Replace("\r", "\\r", StringComparison.Ordinal);

    private static string UnescapeValue(string value)
    {
        var plain = new StringBuilder();
        for (var at = 0; at < value.Length; at++)
        {
            if (value[at] != '\\' || at + 1 == value.Length)
            {
                plain.Append(value[at]);
                continue;
            }

            plain.Append(value[++at] switch { 'n' => '\n', 't' => '\t', 'r' => '\r', 's' => ' ', var other => other });
        }

        return plain.ToString();
    }
}
