using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Engine.Operations;

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
            using var call = new Call(parsed);
            var result = await new ListDue(call.Session).RunAsync(cancel);
            DueView.Show(call.Output, result);
            return parsed.GetValue(check) && result.Entries.Any(item => item.Entry.State == DueState.Due)
                ? ExitCodes.Difference
                : ExitCodes.AllAsAsked;
        });
        return command;
    }
}
