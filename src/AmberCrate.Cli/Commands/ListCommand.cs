using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate list</c>.</summary>
internal static class ListCommand
{
    public static Command Create()
    {
        var words = new DeclaredArgument<string[]>("WORDS", Completion.InstalledApp)
        {
            Description = "Only apps whose id or name has these words", Arity = ArgumentArity.ZeroOrMore,
        };
        var command = new HelpedCommand("list", "What is installed", new CommandHelp(
            "Lists the installed apps with their versions, what they follow, and what is newer. The last line "
                + "says how old the catalogue data are.",
            [3, 7, 9],
            [
                ("acrate list", "all apps, yours and those for all users"),
                ("acrate list paint --json", "apps with \"paint\" in id or name, as JSON"),
            ]))
        { words };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            ListView.Show(call.Output, await new ListApps(call.Session).RunAsync(parsed.GetValue(words)!, cancel));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
