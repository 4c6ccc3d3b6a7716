using System.CommandLine;
using System.Globalization;
using AmberCrate.Cli;
using AmberCrate.Cli.Shell;

namespace AmberCrate.Pages;

/// <summary>The tables of docs/commands.md that repeat what help says, from the same declarations.</summary>
internal static class CommandTables
{
    /// <summary>Each table, and the name that marks its place on the page.</summary>
    public static IEnumerable<(string Name, string Markdown)> All(
        RootCommand root, IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> groups) =>
    [
        ("commands", Table("Task | Command | What it does", groups.SelectMany(group => group.Commands.SelectMany(HelpText.Leaves)
            .Select((command, at) =>
                $"{(at == 0 ? group.Task : "")} | `{HelpText.Form(command)}` | {LowerFirst(command.Description)}")))),
        ("options", Table("Option | Means", SharedOptions(root).Select(option =>
            $"`{HelpText.NameOf(option)}` | {LowerFirst(option.Description)}"))),
        ("exit codes", Table("Code | Means", ExitCodes.Meanings.Select(code =>
            $"{code.Key.ToString(CultureInfo.InvariantCulture)} | {code.Value}"))),
    ];

    /// <summary>The options that every command has, then those that several have and that mean the same in each.</summary>
    private static IEnumerable<Option> SharedOptions(RootCommand root)
    {
        var everywhere = root.Options.Where(option => option.Recursive && !option.Hidden).ToList();
        var commands = root.Subcommands.SelectMany(HelpText.Leaves).ToList();
        return everywhere.Concat(commands.SelectMany(command => command.Options)
            .Where(option => !option.Hidden && !everywhere.Contains(option))
            .GroupBy(option => option).Where(uses => uses.Count() > 1)
            .OrderByDescending(uses => uses.Count()).ThenBy(uses => uses.Key.Name, StringComparer.Ordinal)
            .Select(uses => uses.Key));
    }

    private static string Table(string heads, IEnumerable<string> rows)
    {
        var columns = heads.Split('|').Length;
        return string.Join('\n', [
            $"| {heads} |", "|" + string.Concat(Enumerable.Repeat("---|", columns)), .. rows.Select(row => $"| {row} |"),
        ]);
    }

    private static string LowerFirst(string? text) =>
        string.IsNullOrEmpty(text) ? "" : char.ToLowerInvariant(text[0]) + text[1..];
}
