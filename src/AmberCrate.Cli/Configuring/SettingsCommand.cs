using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Engine.Configuring;

namespace AmberCrate.Cli.Configuring;

/// <summary><c>acrate settings</c>.</summary>
internal static class SettingsCommand
{
    public static Command Create()
    {
        var command = new HelpedCommand("settings", "Settings, and where each value comes from", new CommandHelp(
            "Shows every setting with its value and where that comes from: an option, a variable, a settings file "
                + "or the default.",
            [9],
            [
                ("acrate settings", "your settings and those of the machine"),
                ("acrate settings --json", "the same as JSON"),
            ]));
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            SettingsView.Show(call.Output, new ShowSettings(call.Session).Run());
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
