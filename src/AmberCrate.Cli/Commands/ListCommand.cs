using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate list</c>.</summary>
internal static class ListCommand
{
    public static Command Create()
    {
        var words = new Argument<string[]>("WORDS")
        {
            Description = "Only apps whose id or name holds these words", Arity = ArgumentArity.ZeroOrMore,
        };
        var command = new Command("list", "What is on this machine") { words };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            ListView.Show(call.Output, await new ListApps(call.Session).RunAsync(parsed.GetValue(words)!, cancel));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
