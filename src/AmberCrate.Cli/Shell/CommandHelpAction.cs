using System.CommandLine;
using System.CommandLine.Invocation;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Cli.Tables;

namespace AmberCrate.Cli.Shell;

/// <summary>Shows help for all commands, or for the named one.</summary>
/// <param name="groups">The commands by task.</param>
internal sealed class CommandHelpAction(IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> groups)
    : SynchronousCommandLineAction
{
    /// <inheritdoc/>
    public override bool ClearsParseErrors => true;

    /// <summary>Whether help was requested.</summary>
    public static bool IsAsked(ParseResult parsed) => parsed.GetResult(CommonOptions.Help) is { Implicit: false };

    /// <inheritdoc/>
    public override int Invoke(ParseResult parseResult) => Show(parseResult, groups);

    /// <summary>Shows the help that a command line asks for.</summary>
    public static int Show(ParseResult parsed, IReadOnlyList<(string Task, IReadOnlyList<Command> Commands)> groups)
    {
        using var output = Call.OutputOf(parsed);
        var command = parsed.CommandResult.Command;
        if (output.IsJson)
        {
            output.Json(new HelpDocument([.. groups.SelectMany(group => group.Commands.SelectMany(HelpText.Leaves)
                .Where(leaf => command is RootCommand || leaf == command || leaf.Parents.Contains(command))
                .Select(leaf => new HelpCommandDocument(
                    HelpText.PathOf(leaf), group.Task, HelpText.Form(leaf), leaf.Description ?? "")))]));
            return ExitCodes.AllAsAsked;
        }

        using var text = new StringWriter();
        if (command is RootCommand) HelpText.WriteAll(text, groups, command.Options);
        else HelpText.Write(text, command);
        foreach (var line in text.ToString().TrimEnd('\n').Split('\n'))
            output.Line(new Cell(line, IsHeading(line) ? Tone.Strong : Tone.Plain));
        return ExitCodes.AllAsAsked;
    }

    /// <summary>Headings are at the left and are no sentences.</summary>
    private static bool IsHeading(string line) => line.Length > 0 && line[0] != ' ' && !line.EndsWith('.') && line.Length < 30;
}
