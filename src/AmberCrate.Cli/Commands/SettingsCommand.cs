using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate settings</c>.</summary>
internal static class SettingsCommand
{
    public static Command Create()
    {
        var command = new Command("settings", "Every setting, its value, and where that comes from");
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            SettingsView.Show(call.Output, new ShowSettings(call.Session).Run());
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
