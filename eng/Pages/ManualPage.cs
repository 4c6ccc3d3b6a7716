using System.CommandLine;
using System.Text;
using System.Text.RegularExpressions;
using AmberCrate.Cli;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Cli.Shell;

namespace AmberCrate.Pages;

/// <summary>Writes manual pages in mdoc(7), from the declarations of the commands and from pages of the documentation.</summary>
/// <param name="date">The date that the pages bear.</param>
internal sealed partial class ManualPage(DateOnly date)
{
    private const int LongestLine = 78;

    private readonly StringBuilder _text = new();

    /// <summary>The page of the whole program.</summary>
    public static string OfProgram(
        RootCommand root, IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> groups, DateOnly date)
    {
        var page = new ManualPage(date);
        page.Head("ACRATE", 1, "acrate", "desktop applications for workstations, from catalogues");
        page.Line(".Sh SYNOPSIS");
        page.Line(".Nm");
        page.Line(".Ar command");
        page.Line(".Op Ar options");
        page.Line(".Sh DESCRIPTION");
        page.Paragraph("Searches catalogues for desktop applications, installs them at the versions that you choose, keeps "
            + "them current, and "
            + "copies a machine to another. Every command that changes something shows a plan first, and asks once.");
        page.Paragraph("An app is named by its id, such as `scrim-paint`. A version, a series, a range or a release line may "
            + "stand behind it, and a "
            + "catalogue in front: `scrim-paint@4.2.0`, `scrim-paint@4.2.x`, `scrim-paint@4..5`, `scrim-paint@lts`, "
            + "`guild:scrim-paint`.");
        foreach (var (task, commands) in groups)
        {
            page.Line($".Ss {Escaped(task)}");
            page.Line(".Bl -tag -width Ds");
            foreach (var command in commands.SelectMany(HelpText.Leaves))
            {
                page.Line($".It Xr {NameOf(command)} 1");
                page.Text((command.Description ?? "") + ".");
            }

            page.Line(".El");
        }

        page.Options("With every command", root.Options.Where(option => !option.Hidden));
        page.Line(".Sh EXIT STATUS");
        page.Codes(ExitCodes.Meanings.Keys);
        page.Line(".Sh SEE ALSO");
        page.Line(".Xr acrate-appcard 5 ,");
        page.Line(".Xr acrate-bundle 5");
        return page._text.ToString();
    }

    /// <summary>The page of one command.</summary>
    public static string OfCommand(Command command, DateOnly date)
    {
        var page = new ManualPage(date);
        var name = NameOf(command);
        page.Head(name.ToUpperInvariant(), 1, name, LowerFirst(command.Description ?? ""));
        page.Line(".Sh SYNOPSIS");
        page.Line($".Nm acrate {HelpText.PathOf(command)}");
        foreach (var argument in command.Arguments)
        {
            var many = argument.Arity.MaximumNumberOfValues > 1 ? " ..." : "";
            page.Line(argument.Arity.MinimumNumberOfValues == 0 ? $".Op Ar {argument.Name}{many}" : $".Ar {argument.Name}{many}");
        }

        page.Line(".Op Ar options");
        page.Line(".Sh DESCRIPTION");
        var help = ((HelpedCommand)command).Help;
        page.Paragraph(help.Purpose);
        if (command.Arguments.Count > 0)
        {
            page.Line(".Bl -tag -width Ds");
            foreach (var argument in command.Arguments)
            {
                page.Line($".It Ar {argument.Name}");
                page.Text((argument.Description ?? "") + ".");
            }

            page.Line(".El");
        }

        foreach (var group in HelpText.GroupsOf(command)) page.Options(group.Heading, group.Options);
        page.Line(".Sh EXIT STATUS");
        page.Codes(help.ExitCodes.Append(0).Append(2).Order());
        page.Line(".Sh EXAMPLES");
        foreach (var (line, meaning) in help.Examples)
        {
            page.Paragraph(UpperFirst(meaning) + ":");
            page.Line(".Dl " + Escaped(line));
        }

        page.Line(".Sh SEE ALSO");
        page.Line(".Xr acrate 1");
        return page._text.ToString();
    }

    /// <summary>A page of the documentation as a manual page of section 5.</summary>
    /// <param name="name">The name of the manual page.</param>
    /// <param name="description">What it describes, in a few words.</param>
    /// <param name="markdown">The page.</param>
    /// <param name="date">The date that it bears.</param>
    public static string OfFormat(string name, string description, string markdown, DateOnly date)
    {
        var page = new ManualPage(date);
        page.Head(name.ToUpperInvariant(), 5, name, description);
        page.Line(".Sh DESCRIPTION");
        page.Markdown(markdown.Split('\n').SkipWhile(line => !line.StartsWith("# ", StringComparison.Ordinal)).Skip(1).ToList());
        page.Line(".Sh SEE ALSO");
        page.Line(".Xr acrate 1");
        return page._text.ToString();
    }

    /// <summary>The name of a command's page.</summary>
    public static string NameOf(Command command) => "acrate-" + HelpText.PathOf(command).Replace(' ', '-');

    private void Head(string title, int section, string name, string description)
    {
        Line($".Dd {date:MMMM} {date.Day}, {date.Year}");
        Line($".Dt {title} {section}");
        Line(".Os");
        Line(".Sh NAME");
        Line($".Nm {name}");
        Line($".Nd {Escaped(description)}");
    }

    private void Options(string heading, IEnumerable<Option> options)
    {
        Line($".Ss {Escaped(heading)}");
        Line(".Bl -tag -width Ds");
        foreach (var option in options)
        {
            var value = option.HelpName is { } named ? $" Ar {Escaped(named)}" : "";
            Line(".It " + string.Join(" , ", option.Aliases.Order(StringComparer.Ordinal).Append(option.Name)
                .Select(alias => $"Fl {Escaped(alias[1..])}{value}")));
            Text((option.Description ?? "") + ".");
        }

        Line(".El");
    }

    private void Codes(IEnumerable<int> codes)
    {
        Line(".Bl -tag -width Ds");
        foreach (var code in codes)
        {
            Line($".It {code}");
            Text(ExitCodes.Meanings[code]);
        }

        Line(".El");
    }

    private void Markdown(List<string> lines)
    {
        for (var at = 0; at < lines.Count; at++)
        {
            var line = lines[at];
            if (line.Length == 0 || line.StartsWith("<!--", StringComparison.Ordinal)) continue;
            if (line.StartsWith("### ", StringComparison.Ordinal)) Line(".Ss " + Inline(line[4..]));
            else if (line.StartsWith("## ", StringComparison.Ordinal)) Line(".Sh " + Inline(line[3..]).ToUpperInvariant());
            else if (line.StartsWith("```", StringComparison.Ordinal)) at = Literal(lines, at);
            else if (line.StartsWith('|')) at = Table(lines, at);
            else if (line.StartsWith("- ", StringComparison.Ordinal)) at = Items(lines, at);
            else at = Words(lines, at);
        }
    }

    private int Literal(List<string> lines, int at)
    {
        Line(".Bd -literal -offset indent");
        for (at++; !lines[at].StartsWith("```", StringComparison.Ordinal); at++)
            Line(lines[at].Length == 0 ? "\\&" : Escaped(lines[at]));
        Line(".Ed");
        return at;
    }

    private int Table(List<string> lines, int at)
    {
        Line(".Bl -tag -width Ds");
        for (at += 2; at < lines.Count && lines[at].StartsWith('|'); at++)
        {
            var cells = lines[at].Trim('|').Split('|').Select(cell => cell.Trim()).ToList();
            Line(".It " + Inline(cells[0])
                + (cells.Count > 2 ? $" ({string.Join(", ", cells[1..^1].Where(cell => cell.Length > 0))})" : ""));
            Text(cells[^1], isMarkdown: true);
        }

        Line(".El");
        return at - 1;
    }

    private int Items(List<string> lines, int at)
    {
        Line(".Bl -bullet");
        for (; at < lines.Count && lines[at].StartsWith("- ", StringComparison.Ordinal); at++)
        {
            var item = lines[at][2..];
            while (at + 1 < lines.Count && lines[at + 1].StartsWith("  ", StringComparison.Ordinal))
                item += " " + lines[++at].Trim();
            Line(".It");
            Text(item, isMarkdown: true);
        }

        Line(".El");
        return at - 1;
    }

    private int Words(List<string> lines, int at)
    {
        var words = lines[at];
        while (at + 1 < lines.Count && lines[at + 1].Length > 0
            && lines[at + 1][0] is not ('|' or '#' or '-' or '<' or '`' or ' '))
            words += " " + lines[++at];
        if (!_text.ToString().TrimEnd('\n').Split('\n')[^1].StartsWith(".S", StringComparison.Ordinal)) Line(".Pp");
        Text(words, isMarkdown: true);
        return at;
    }

    private void Paragraph(string words)
    {
        if (!_text.ToString().TrimEnd('\n').Split('\n')[^1].StartsWith(".S", StringComparison.Ordinal)) Line(".Pp");
        Text(words, isMarkdown: true);
    }

    /// <summary>Writes running words, a sentence a line, as mdoc asks.</summary>
    private void Text(string words, bool isMarkdown = false)
    {
        foreach (var sentence in SentenceEnd().Split(words.Trim()).Where(part => part.Length > 0))
        {
            var line = "";
            foreach (var word in (isMarkdown ? Inline(sentence) : Escaped(sentence)).Split(' '))
            {
                if (line.Length > 0 && line.Length + 1 + word.Length > LongestLine)
                {
                    Line(line);
                    line = "";
                }

                // A word that troff would take for a request at the beginning of a line.
                line = line.Length > 0 ? $"{line} {word}" : word.StartsWith('.') || word.StartsWith('\'') ? "\\&" + word : word;
            }

            Line(line);
        }
    }

    private static string Inline(string words)
    {
        var plain = Escaped(Link().Replace(words, "${words}"));
        return Bold().Replace(Code().Replace(plain, "\\fB${words}\\fR"), "\\fB${words}\\fR");
    }

    /// <summary>Text without what troff would take for a request or an escape.</summary>
    private static string Escaped(string words)
    {
        var safe = words.Replace("\\", "\\e", StringComparison.Ordinal);
        return safe.StartsWith('.') || safe.StartsWith('\'') ? "\\&" + safe : safe;
    }

    private static string LowerFirst(string text) => text.Length == 0 ? text : char.ToLowerInvariant(text[0]) + text[1..];

    private static string UpperFirst(string text) => text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];

    private void Line(string line) => _text.Append(line).Append('\n');

    [GeneratedRegex("(?<=[.:?]) +(?=[A-Z`])", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex SentenceEnd();

    [GeneratedRegex("\\[(?<words>[^\\]]+)\\]\\([^)]+\\)", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Link();

    [GeneratedRegex("`(?<words>[^`]+)`", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Code();

    [GeneratedRegex("\\*\\*(?<words>[^*]+)\\*\\*", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Bold();
}
