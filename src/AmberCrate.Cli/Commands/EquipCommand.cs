using System.CommandLine;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate equip</c>.</summary>
internal static class EquipCommand
{
    public static Command Create(CancellationToken now)
    {
        var file = new Argument<string>("FILE") { Description = "The bundle" };
        var command = new Command("equip", "Make this machine hold what a bundle lists") { file };
        command.AddRunOptions(fetches: true);
        command.SetRun(
            (call, parsed, signals) => new Equip(call.Session).RunAsync(parsed.GetValue(file)!, call.RunOptions(), signals), now);
        return command;
    }
}
