using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Due;
using AmberCrate.Engine.Due;

namespace AmberCrate.Cli.Due;

/// <summary><c>acrate due</c>.</summary>
internal static class DueCommand
{
    public static Command Create()
    {
        var words = new DeclaredArgument<string[]>("WORDS", Completion.InstalledApp)
        {
            Description = "Only apps whose id or name has these words", Arity = ArgumentArity.ZeroOrMore,
        };
        var check = new DeclaredOption<bool>(OptionGroup.Output, "--check")
        {
            Description = "End with exit code 10 where something can be upgraded",
        };
        var notes = new DeclaredOption<bool>(OptionGroup.Output, "--notes")
        {
            Description = "Show what is new in each release between",
        };
        var metrics = new DeclaredOption<string>(OptionGroup.Output, "--metrics")
        {
            Description = "Also write metrics for a node exporter into FILE, such as /var/lib/node_exporter/acrate.prom",
            HelpName = "FILE", Completion = Completion.File,
        };
        var command = new HelpedCommand("due", "What is outdated, and by how much", new CommandHelp(
            "Lists installed apps that are outdated, and how far behind they are. acrate upgrade upgrades those that are due.",
            [7, 9, 10],
            [
                ("acrate due --notes", "the same, with what is new in each release"),
                ("acrate due --check --json", "for a script: exit code 10 where something can be upgraded"),
            ]))
        { words, check, notes, metrics };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var result = await new ListDue(call.Session).RunAsync(
                parsed.GetValue(words)!, parsed.GetValue(metrics), cancel);
            DueView.Show(call.Output, result, parsed.GetValue(notes));
            return parsed.GetValue(check) && result.Entries.Any(item => item.Entry.State == DueState.Due)
                ? ExitCodes.Difference
                : ExitCodes.AllAsAsked;
        });
        return command;
    }
}
