using System.CommandLine;
using AmberCrate.Cli.CommandLine;

namespace AmberCrate.Cli.Shell;

/// <summary>Writes help from the declarations of the commands, in 80 columns.</summary>
internal static class HelpText
{
    private const int Columns = 80, NameColumn = 26, WideColumn = 37;

    private static readonly Dictionary<OptionGroup, string> Headings = new()
    {
        [OptionGroup.Selection] = "Which apps", [OptionGroup.Plan] = "Before anything changes",
        [OptionGroup.Files] = "Files and installers", [OptionGroup.Network] = "Downloads and the network",
        [OptionGroup.Waiting] = "Apps in use, other runs", [OptionGroup.Place] = "Whose apps, which machine",
        [OptionGroup.Output] = "Output",
    };

    /// <summary>Writes the commands by task.</summary>
    /// <param name="text">Takes the text.</param>
    /// <param name="groups">The commands by task.</param>
    /// <param name="everywhere">The options of every command.</param>
    public static void WriteAll(
        TextWriter text, IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> groups, IEnumerable<Option> everywhere)
    {
        text.WriteLine("acrate: desktop applications for workstations, from catalogues");
        foreach (var (task, commands) in groups)
        {
            text.WriteLine();
            text.WriteLine(task);
            foreach (var command in commands.SelectMany(Leaves))
                WritePair(text, Form(command), command.Description ?? "", WideColumn);
        }

        text.WriteLine();
        text.WriteLine("With every command");
        foreach (var option in everywhere.Where(option => !option.Hidden))
            WritePair(text, NameOf(option), option.Description ?? "", WideColumn);
        text.WriteLine();
        text.WriteLine("An APP is an id, such as scrim-paint. It may name a release and a catalogue:");
        text.WriteLine("  scrim-paint@4.2.0  scrim-paint@4.2.x  scrim-paint@4..5  scrim-paint@lts");
        text.WriteLine("  guild:scrim-paint");
        text.WriteLine();
        text.WriteLine("acrate COMMAND --help tells more about one command.");
    }

    /// <summary>Writes the help of one command.</summary>
    public static void Write(TextWriter text, Command command)
    {
        text.WriteLine($"acrate {PathOf(command)}: {LowerFirst(command.Description ?? "")}");
        if (command is HelpedCommand helped)
        {
            text.WriteLine();
            WriteWrapped(text, helped.Help.Purpose, 0);
        }

        text.WriteLine();
        if (command.Subcommands.Any(sub => !sub.Hidden))
        {
            text.WriteLine("Commands");
            foreach (var sub in command.Subcommands.Where(sub => !sub.Hidden))
                WritePair(text, Form(sub), sub.Description ?? "", WideColumn);
            text.WriteLine();
            text.WriteLine($"acrate {PathOf(command)} COMMAND --help tells more about one of them.");
            return;
        }

        text.WriteLine("Form");
        text.WriteLine($"  acrate {Form(command)}{(command.Options.Count > 0 ? " [OPTIONS]" : "")}");
        foreach (var argument in command.Arguments) WritePair(text, argument.Name, argument.Description ?? "", NameColumn);
        foreach (var (heading, options) in GroupsOf(command))
        {
            text.WriteLine();
            text.WriteLine(heading);
            foreach (var option in options) WritePair(text, NameOf(option), option.Description ?? "", NameColumn);
        }

        if (command is HelpedCommand { Help: var help }) WriteEndings(text, help);
    }

    /// <summary>The words of a command behind <c>acrate</c>.</summary>
    public static string PathOf(Command command) =>
        command.Parents.OfType<Command>().FirstOrDefault(above => above is not RootCommand) is { } parent
            ? $"{PathOf(parent)} {command.Name}"
            : command.Name;

    /// <summary>How a command is typed, without its options.</summary>
    public static string Form(Command command)
    {
        var words = new List<string> { PathOf(command) };
        foreach (var argument in command.Arguments)
        {
            var name = argument.Name + (argument.Arity.MaximumNumberOfValues > 1 ? "..." : "");
            words.Add(argument.Arity.MinimumNumberOfValues == 0 ? $"[{name}]" : name);
        }

        return string.Join(' ', words);
    }

    /// <summary>An option as it is typed, with its short name and its value.</summary>
    public static string NameOf(Option option) =>
        string.Join(", ", option.Aliases.Order(StringComparer.Ordinal).Append(option.Name))
        + (option.HelpName is { } value ? $" {value}" : "");

    /// <summary>The options of a command, those of every command included.</summary>
    public static IEnumerable<Option> OptionsOf(Command command)
    {
        foreach (var option in command.Options.Where(option => !option.Hidden)) yield return option;
        for (var above = command.Parents.OfType<Command>().FirstOrDefault(); above is not null;
            above = above.Parents.OfType<Command>().FirstOrDefault())
        {
            foreach (var option in above.Options.Where(option => option.Recursive && !option.Hidden)) yield return option;
        }
    }

    /// <summary>The options of a command by purpose.</summary>
    public static IEnumerable<(string Heading, IEnumerable<Option> Options)> GroupsOf(Command command) => OptionsOf(command)
        .GroupBy(option => option is IDeclaredOption declared ? declared.Group : OptionGroup.Output)
        .OrderBy(group => group.Key)
        .Select(group => (Headings[group.Key], group.AsEnumerable()));

    /// <summary>The commands below a command that do something, or the command itself.</summary>
    public static IEnumerable<Command> Leaves(Command command) => command.Hidden ? []
        : command.Subcommands.Count > 0 ? command.Subcommands.SelectMany(Leaves) : [command];

    private static void WriteEndings(TextWriter text, CommandHelp help)
    {
        text.WriteLine();
        text.WriteLine("Exit codes");
        foreach (var code in help.ExitCodes.Prepend(0).Append(2).Order()) WritePair(text, $"{code}", ExitCodes.Meanings[code], 7);
        text.WriteLine();
        text.WriteLine("Examples");
        foreach (var (line, meaning) in help.Examples)
        {
            text.WriteLine($"  {line}");
            WriteWrapped(text, meaning, 6);
        }
    }

    private static string LowerFirst(string text) => text.Length == 0 ? text : char.ToLowerInvariant(text[0]) + text[1..];

    /// <summary>Writes a name and what it means beside it; below it where the name is long.</summary>
    private static void WritePair(TextWriter text, string name, string meaning, int column)
    {
        var begin = "  " + name;
        if (begin.Length + 1 >= column)
        {
            text.WriteLine(begin);
            begin = "";
        }

        foreach (var line in Wrapped(meaning, Columns - column))
        {
            text.WriteLine(begin.PadRight(column) + line);
            begin = "";
        }
    }

    private static void WriteWrapped(TextWriter text, string words, int indent)
    {
        foreach (var line in Wrapped(words, Columns - indent)) text.WriteLine(new string(' ', indent) + line);
    }

    private static IEnumerable<string> Wrapped(string text, int width)
    {
        var line = "";
        foreach (var word in text.Split(' '))
        {
            if (line.Length > 0 && line.Length + 1 + word.Length > width)
            {
                yield return line;
                line = "";
            }

            line = line.Length == 0 ? word : $"{line} {word}";
        }

        yield return line;
    }
}
