using System.CommandLine;
using System.CommandLine.Help;
using System.CommandLine.Invocation;

namespace AmberCrate.Cli.Commands;

/// <summary>Help that begins with the tasks of the person who asks; the help of a single command is the usual one.</summary>
internal sealed class GroupedHelpAction(
    HelpAction usual, IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> groups) : SynchronousCommandLineAction
{
    private static readonly Option[] Everywhere =
    [
        CommonOptions.AllUsers, CommonOptions.Json, CommonOptions.Root, CommonOptions.Offline, CommonOptions.NoColour,
        CommonOptions.Verbose,
    ];

    public override int Invoke(ParseResult parseResult) =>
        parseResult.CommandResult.Command is RootCommand ? Write(Console.Out, groups) : usual.Invoke(parseResult);

    /// <summary>Writes the grouped help.</summary>
    public static int Write(TextWriter text, IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> groups)
    {
        text.WriteLine("acrate: desktop applications for workstations, from catalogues");
        foreach (var (task, commands) in groups)
        {
            text.WriteLine();
            text.WriteLine(task);
            foreach (var command in commands.SelectMany(
                command => command.Subcommands.Count > 0 ? command.Subcommands : (IEnumerable<Command>)[command]))
                text.WriteLine($"  {Form(command),-38} {command.Description}");
        }

        text.WriteLine();
        text.WriteLine("Everywhere");
        foreach (var option in Everywhere)
            text.WriteLine($"  {option.Name + (option.HelpName is null ? "" : " " + option.HelpName),-38} {option.Description}");
        text.WriteLine();
        text.WriteLine("An APP is an id, such as scrim-paint; for install it may name a release and a catalogue too:");
        text.WriteLine("  scrim-paint@4.2.0   scrim-paint@4.2.x   scrim-paint@4..5   scrim-paint@lts   guild:scrim-paint");
        text.WriteLine();
        text.WriteLine("acrate COMMAND --help tells more about one command.");
        return ExitCodes.AllAsAsked;
    }

    private static string Form(Command command)
    {
        var parent = command.Parents.OfType<Command>().FirstOrDefault(above => above is not RootCommand);
        var words = new List<string> { parent is null ? command.Name : $"{parent.Name} {command.Name}" };
        foreach (var argument in command.Arguments)
        {
            var name = (argument.HelpName ?? argument.Name) + (argument.Arity.MaximumNumberOfValues > 1 ? "..." : "");
            words.Add(argument.Arity.MinimumNumberOfValues == 0 ? $"[{name}]" : name);
        }

        return string.Join(' ', words);
    }
}
