using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Cli.Exporting;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.PastRuns;

namespace AmberCrate.Cli.PastRuns;

/// <summary><c>acrate runs</c>.</summary>
internal static class RunsCommand
{
    public static Command Create()
    {
        var run = new DeclaredArgument<string>("RUN", Completion.None)
        {
            Description = "The number of a run, to show it in full", Arity = ArgumentArity.ZeroOrOne,
        };
        var all = new DeclaredOption<bool>(OptionGroup.Selection, "--all")
        {
            Description = $"List all runs, not only the latest {ListRuns.Usual}",
        };
        var bundle = new DeclaredOption<string>(OptionGroup.Output, "--bundle")
        {
            Description = "Write the machine as it was after RUN as a bundle", HelpName = "RUN",
        };
        var before = new DeclaredOption<bool>(OptionGroup.Output, "--before")
        {
            Description = "With --bundle: the state before RUN",
        };
        var file = new DeclaredOption<string>(OptionGroup.Output, "--output", "-o")
        {
            Description = "With --bundle: the file to write; standard output unless given", HelpName = "FILE",
            Completion = Completion.File,
        };
        var command = new HelpedCommand("runs", "What earlier runs did", new CommandHelp(
            "Lists the latest runs: when, who, which command, and how their apps ended. With a number it shows that run in "
                + "full. With --bundle it writes the machine as it was after or before a run.",
            [3, 7, 9],
            [
                ("acrate runs 12", "run 12 in full, with the files of its log"),
                ("acrate runs --bundle 12 --before -o old.bundle.toml", "the state of the machine before run 12"),
            ]))
        { run, all, bundle, before, file };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            var operation = new ListRuns(call.Session);
            if (parsed.GetValue(bundle) is null && (parsed.GetValue(before) || parsed.GetValue(file) is not null))
                throw new Problem(
                    ProblemCode.BadCommandLine, "--before and --output go with --bundle only",
                    remedy: NextCommand.Create("runs", "--bundle", parsed.GetValue(run) ?? "RUN")).ToException();
            if (SharedArguments.ReadRunNumber(parsed.GetValue(bundle)) is { } written)
            {
                var path = parsed.GetValue(file);
                if (path is null && call.Output.IsJson) throw ExportCommand.NeedsFile().ToException();
                ExportView.Show(
                    call.Output, operation.Bundle(written, parsed.GetValue(before), path), Core.Inventories.InventoryForm.Bundle);
            }
            else if (SharedArguments.ReadRunNumber(parsed.GetValue(run)) is { } number)
                RunsView.Show(call.Output, operation.Details(number));
            else RunsView.Show(call.Output, operation.Run(parsed.GetValue(all)));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
