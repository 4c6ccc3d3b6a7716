using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Searching;
using AmberCrate.Engine.Operations;

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
            using var other = call.OpenEveryonesToo(station);
            var entries = new[] { station, other }.OfType<Workstation>()
                .SelectMany(one => DueEntry.All(one.State(), one.Offers()).Select(entry => (one.Layout.Scope, Entry: entry)))
                .Where(item => wanted.TrueForAll(word => SearchText.Squash(item.Entry.App.Id.Text + " " + item.Entry.App.Name).Contains(word, StringComparison.Ordinal)))
                .OrderBy(item => item.Entry.App.Id.Text, StringComparer.Ordinal)
                .ToList();
            ListView.Show(call.Output, entries, station, other);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
