using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Searching;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate list</c>.</summary>
internal static class ListCommand
{
    public static Command Create()
    {
        var words = new Argument<string[]>("WORDS") { Description = "Only apps whose id or name holds these words", Arity = ArgumentArity.ZeroOrMore };
        var command = new Command("list", "What is on this machine") { words };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            using var station = await call.OpenToReadFreshAsync(cancel);
            var wanted = parsed.GetValue(words)!.Select(SearchText.Squash).ToList();
            var entries = DueEntry.All(station.State(), station.Offers())
                .Where(entry => wanted.TrueForAll(word => SearchText.Squash(entry.App.Id.Text + " " + entry.App.Name).Contains(word, StringComparison.Ordinal)))
                .ToList();
            ListView.Show(call.Output, entries, station);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
