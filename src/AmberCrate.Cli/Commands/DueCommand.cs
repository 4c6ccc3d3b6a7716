using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate due</c>.</summary>
internal static class DueCommand
{
    public static Command Create()
    {
        var check = new Option<bool>("--check") { Description = "End with exit code 10 where something can be upgraded" };
        var command = new Command("due", "What is outdated, and by how much") { check };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            using var station = await call.OpenToReadFreshAsync(cancel);
            var entries = DueEntry.All(station.State(), station.Offers());
            DueView.Show(call.Output, entries, station);
            return parsed.GetValue(check) && entries.Any(entry => entry.State == DueState.Due) ? ExitCodes.Difference : ExitCodes.AllAsAsked;
        });
        return command;
    }
}
