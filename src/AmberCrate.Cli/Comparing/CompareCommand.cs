using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.BundleFiles;
using AmberCrate.Engine.Comparing;

namespace AmberCrate.Cli.Comparing;

/// <summary><c>acrate compare</c>.</summary>
internal static class CompareCommand
{
    public static Command Create()
    {
        var wanted = SharedArguments.CreateBundle();
        wanted.Arity = ArgumentArity.ZeroOrOne;
        var with = new DeclaredArgument<string>("WITH", Completion.File)
        {
            Description = "Another bundle, or a folder of exports; default: this machine",
            Arity = ArgumentArity.ZeroOrOne,
        };
        var run = new DeclaredOption<string>(OptionGroup.Selection, "--run")
        {
            Description = "Compare with this machine as it was after RUN, instead of a bundle", HelpName = "RUN",
        };
        var before = new DeclaredOption<bool>(OptionGroup.Selection, "--before")
        {
            Description = "With --run: the state before RUN",
        };
        var check = new DeclaredOption<bool>(OptionGroup.Output, "--check")
        {
            Description = "End with exit code 10 where something differs",
        };
        var page = new DeclaredOption<string>(OptionGroup.Output, "--html")
        {
            Description = "Write the comparison as one page into FILE", HelpName = "FILE", Completion = Completion.File,
        };
        var command = new HelpedCommand("compare", "Show how machines differ from a bundle", new CommandHelp(
            "Compares what a bundle wants with what is installed: on this machine, in another bundle, or in a folder of "
                + "exports from many machines. Names what is missing, older, newer, damaged, pinned otherwise, or extra.",
            [3, 5, 6, 7, 9, 10],
            [
                ("acrate compare paintframe.bundle.toml --check", "has this machine drifted?"),
                ("acrate compare standard.bundle.toml exports --html drift.html", "which of many machines have?"),
            ]))
        { wanted, with, run, before, check, page };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var request = ReadRequest(parsed.GetValue(wanted), parsed.GetValue(with), parsed.GetValue(run),
                parsed.GetValue(before));
            var result = await new Compare(call.Session).RunAsync(request, cancel);
            if (parsed.GetValue(page) is { } file)
                BundleFile.Replace(call.Host.FullPath(file), DifferencePage.Render(result));
            DifferenceView.Show(call.Output, result);
            return parsed.GetValue(check) && result.HasDifference ? ExitCodes.Difference : ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static CompareRequest ReadRequest(string? wanted, string? with, string? run, bool isBefore)
    {
        if (wanted is null && run is null)
            throw new Problem(ProblemCode.BadCommandLine, "no bundle is named", remedy: NextCommand.HelpOf("compare"))
                .ToException();
        if (isBefore && run is null)
            throw new Problem(ProblemCode.BadCommandLine, "--before goes with --run only", remedy: NextCommand.HelpOf("compare"))
                .ToException();
        if (run is not null && with is not null)
            throw new Problem(
                ProblemCode.BadCommandLine, "--run takes the place of one bundle", remedy: NextCommand.HelpOf("compare"))
                    .ToException();
        return run is null
            ? new CompareRequest(wanted) { With = with }
            : new CompareRequest(null) { With = wanted, Run = SharedArguments.ReadRunNumber(run), IsBefore = isBefore };
    }
}
