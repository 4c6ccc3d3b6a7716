using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Bundling;

namespace AmberCrate.Cli.Bundling;

/// <summary><c>acrate bundle</c> and its commands.</summary>
internal static class BundleCommand
{
    public static Command Create() => new("bundle", "Write, read and check bundles")
    {
        CreateInclude(), CreateDrop(), CreateView(), CreateCheck(), CreateSeal(),
    };

    private static DeclaredArgument<string> File(string description) =>
        new("FILE", Completion.File) { Description = description };

    private static HelpedCommand CreateInclude()
    {
        var file = File("The bundle; it is made where it is not there");
        var apps = CommonOptions.Apps("Apps to put into it, each with the version that it follows", Completion.OfferedApp);
        var command = new HelpedCommand("include", "Put apps into a bundle", new CommandHelp(
            "Adds entries to a bundle, and the catalogues they come from. An app that is listed already gets the new reference. "
                + "Comments and order stay.",
            [3, 5],
            [
                ("acrate bundle include frame.bundle.toml scrim-paint@4.2.x", "puts in one app"),
                ("acrate bundle include frame.bundle.toml --list-file apps.txt", "puts in a list of apps"),
            ]))
        { file, apps, CommonOptions.ListFile };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            BundleView.ShowEdit(call.Output, await new EditBundle(call.Session).IncludeAsync(
                parsed.GetValue(file)!, call.References(parsed.GetValue(apps)!), cancel));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateDrop()
    {
        var file = File("The bundle");
        var apps = CommonOptions.Apps("Apps to take out of it", Completion.None);
        var command = new HelpedCommand("drop", "Take apps out of a bundle", new CommandHelp(
            "Removes entries from a bundle. Comments and order stay. An app that only a bundle below lists, on which this one "
                + "builds, is named in drops.",
            [3, 4, 5],
            [
                ("acrate bundle drop frame.bundle.toml cue-ledger", "takes out one app"),
                ("acrate bundle drop frame.bundle.toml cue-ledger gantry-plot --json", "takes out two, and answers as JSON"),
            ]))
        { file, apps };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            if (parsed.GetValue(apps) is not { Length: > 0 } names) throw call.NoApp().ToException();
            BundleView.ShowEdit(
                call.Output, await new EditBundle(call.Session).DropAsync(parsed.GetValue(file)!, names, cancel));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateView()
    {
        var bundle = SharedArguments.CreateBundle();
        var flat = new DeclaredOption<bool>(OptionGroup.Output, "--flat")
        {
            Description = "Show what it comes to on this machine, and where each line comes from",
        };
        var command = new HelpedCommand("view", "Show what is in a bundle", new CommandHelp(
            "Lists the apps of a bundle, its catalogues, what it builds on, and what it could not carry.",
            [3, 5, 6],
            [
                ("acrate bundle view frame.bundle.toml --flat", "with all bundles below, and what counts on this machine"),
                ("acrate bundle view guild:paintframe", "a bundle that a catalogue carries"),
            ]))
        { bundle, flat };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            BundleView.Show(
                call.Output, await new LookAtBundle(call.Session).ViewAsync(parsed.GetValue(bundle)!, cancel),
                parsed.GetValue(flat));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateCheck()
    {
        var bundle = SharedArguments.CreateBundle();
        var command = new HelpedCommand("check", "Check a bundle against the catalogues", new CommandHelp(
            "Says for each entry whether it is still offered, whether something newer is, what conflicts, whose pin has lapsed, "
                + "and what has no digest. Ends with 3 where an entry cannot be installed.",
            [3, 4, 5, 6],
            [
                ("acrate bundle check frame.bundle.toml", "a file"),
                ("acrate bundle check https://bundles.stagecraft-guild.example/frame.bundle.toml", "one from a server"),
            ]))
        { bundle };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var check = await new LookAtBundle(call.Session).CheckAsync(parsed.GetValue(bundle)!, cancel);
            BundleView.ShowCheck(call.Output, check);
            return check.IsBroken ? ExitCodes.ForProblem(ProblemCode.NothingMatched) : ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateSeal()
    {
        var bundle = SharedArguments.CreateBundle();
        var output = new DeclaredOption<string>(OptionGroup.Output, "--output", "-o")
        {
            Description = "The file to write; NAME.sealed.bundle.toml here unless given", HelpName = "FILE",
            Completion = Completion.File,
        };
        var platform = SharedArguments.CreatePlatform("Seal it for PLATFORM; this machine's own unless given");
        var command = new HelpedCommand("seal", "Fix every version and digest of a bundle", new CommandHelp(
            "Writes a bundle with every version and digest fixed, dependencies included. It installs the same files "
                + "everywhere, or fails by name. It is not a signature: whoever can change the file can seal it again.",
            [3, 4, 5, 6],
            [
                ("acrate bundle seal frame.bundle.toml", "writes frame.sealed.bundle.toml"),
                ("acrate bundle seal guild:paintframe -o frame-2026-11.bundle.toml", "seals what a catalogue carries"),
            ]))
        { bundle, output, platform };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            BundleView.ShowSealed(call.Output, await new LookAtBundle(call.Session).SealAsync(
                parsed.GetValue(bundle)!, parsed.GetValue(output), SharedArguments.ReadPlatform(parsed.GetValue(platform)),
                cancel));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
