using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Engine.Installing;

namespace AmberCrate.Cli.Installing;

/// <summary><c>acrate install</c>.</summary>
internal static class InstallCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps(
            "An app: its id or name, with a catalogue in front and a version behind it if you like", Completion.OfferedApp);
        var again = new DeclaredOption<bool>(OptionGroup.Plan, "--again")
        {
            Description = "Install apps again that are installed already",
        };
        var older = new DeclaredOption<bool>(OptionGroup.Plan, "--even-older")
        {
            Description = "Let other apps become older if there is no other way",
        };
        var attended = new DeclaredOption<bool>(OptionGroup.Files, "--attended")
        {
            Description = "Answer the vendor's installer yourself, on this terminal",
        };
        var platform = SharedArguments.CreatePlatform(
            "Install the files for PLATFORM instead of this machine's own, such as i386-linux-any");
        var command = new HelpedCommand("install", "Install apps", new CommandHelp(
            "Installs apps in the newest version, or in the one after the @, which upgrades then follow. Everything is "
                + "planned, checked and shown first. Then you are asked once. If one app fails, the others go on.",
            [1, 3, 4, 5, 6, 7, 8, 130],
            [
                ("acrate install gantry-plot scrim-paint@4.2.x", "two apps; Scrim Paint follows 4.2.x from now on"),
                ("acrate install --list-file paintframe.txt --yes", "all apps of a list, with nobody at the keyboard"),
            ]))
        { apps, CommonOptions.ListFile, again, older, attended, platform };
        command.AddRunOptions(fetches: true);
        command.SetRun((call, parsed, signals) =>
            new Install(call.Session).RunAsync(
                call.References(parsed.GetValue(apps)!),
                new InstallRequest
                {
                    IsAgain = parsed.GetValue(again), IsAttended = parsed.GetValue(attended),
                    Platform = SharedArguments.ReadPlatform(parsed.GetValue(platform)),
                },
                call.RunOptions() with { AllowsOlder = parsed.GetValue(older) }, signals), now);
        return command;
    }
}
