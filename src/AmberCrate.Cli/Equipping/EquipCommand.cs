using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Equipping;
using AmberCrate.Engine.Kits;

namespace AmberCrate.Cli.Equipping;

/// <summary><c>acrate equip</c>.</summary>
internal static class EquipCommand
{
    public static Command Create(CancellationToken now)
    {
        var bundle = SharedArguments.CreateBundle();
        bundle.Arity = ArgumentArity.ZeroOrOne;
        var run = new DeclaredOption<string>(OptionGroup.Selection, "--run")
        {
            Description = "Equip this machine as it was after RUN, instead of from a bundle", HelpName = "RUN",
        };
        var before = new DeclaredOption<bool>(OptionGroup.Selection, "--before")
        {
            Description = "With --run: the state before RUN",
        };
        var only = new DeclaredOption<string[]>(OptionGroup.Selection, "--only")
        {
            Description = "Only APP of the bundle, and what it needs", HelpName = "APP",
        };
        var others = new DeclaredOption<bool>(OptionGroup.Selection, "--uninstall-others")
        {
            Description = "Uninstall the apps that the bundle does not list; they are named first",
        };
        var upgrade = new DeclaredOption<bool>(OptionGroup.Selection, "--upgrade")
        {
            Description = "Also upgrade installed apps that the bundle lists without a version, within what they follow",
        };
        var command = new HelpedCommand("equip", "Make this machine match a bundle", new CommandHelp(
            "Installs and upgrades what a bundle lists, and adds its catalogues. The difference is shown first. "
                + "Apps that the bundle does not list stay as they are, unless you ask otherwise.",
            [1, 3, 4, 5, 6, 7, 8, 130],
            [
                ("acrate equip paintframe.bundle.toml --dry-run", "shows the difference"),
                ("acrate equip guild:paintframe --yes --report done.md", "from a catalogue, with a report"),
            ]))
        { bundle, run, before, only, others, upgrade, CommonOptions.Report };
        command.AddRunOptions(fetches: true);
        command.Options.Add(CommonOptions.TakeOver);
        command.Options.Add(CommonOptions.Unsigned);
        command.Options.Add(CommonOptions.AcceptStale);
        command.SetRun(
            (call, parsed, signals) => new Equip(call.Session).RunAsync(
                ReadRequest(call, parsed.GetValue(bundle), parsed.GetValue(run), parsed.GetValue(before)) with
                {
                    Only = parsed.GetValue(only) ?? [],
                    UninstallsOthers = parsed.GetValue(others),
                    Upgrades = parsed.GetValue(upgrade),
                },
                call.RunOptions(), signals), now);
        return command;
    }

    /// <summary>Reads what a machine is to be equipped with.</summary>
    /// <exception cref="ProblemException">It is neither a bundle nor a run, or both.</exception>
    private static EquipRequest ReadRequest(Call call, string? bundle, string? run, bool isBefore)
    {
        if (bundle is null && run is null && MakeKit.BesideProgram(call.Host) is { } kit) bundle = kit;
        if (bundle is null == run is null)
            throw new Problem(
                ProblemCode.BadCommandLine, bundle is null ? "no bundle is named" : "a bundle and --run exclude each other",
                remedy: NextCommand.HelpOf("equip")).ToException();
        if (isBefore && run is null)
            throw new Problem(ProblemCode.BadCommandLine, "--before goes with --run only", remedy: NextCommand.HelpOf("equip"))
                .ToException();
        return new EquipRequest(bundle) { Run = SharedArguments.ReadRunNumber(run), IsBefore = isBefore };
    }
}
