using System.CommandLine;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate equip</c>.</summary>
internal static class EquipCommand
{
    public static Command Create(CancellationToken now)
    {
        var file = new DeclaredArgument<string>("FILE", Completion.File) { Description = "The bundle; - for standard input" };
        var command = new HelpedCommand("equip", "Make this machine match a bundle", new CommandHelp(
            "Installs and upgrades what a bundle lists, and adds its catalogues. The difference is shown first. "
                + "Apps that the bundle does not list stay as they are.",
            [1, 3, 4, 5, 6, 7, 8, 130],
            [
                ("acrate equip paintframe.bundle.toml --dry-run", "shows the difference"),
                ("acrate equip paintframe.bundle.toml --yes", "makes the machine match, with nobody at the keyboard"),
            ]))
        { file };
        command.AddRunOptions(fetches: true);
        command.Options.Add(CommonOptions.TakeOver);
        command.SetRun(
            (call, parsed, signals) => new Equip(call.Session).RunAsync(
                InputFile.PathOf(parsed.GetValue(file)!), call.RunOptions(), signals), now);
        return command;
    }
}
