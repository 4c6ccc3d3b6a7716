using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Comparing;
using AmberCrate.Engine.Comparing;

namespace AmberCrate.Cli.Comparing;

/// <summary>Shows how machines differ from a bundle.</summary>
internal static class DifferenceView
{
    private const int MostMachines = 30, MostReasons = 3;

    public static void Show(Output output, CompareResult result)
    {
        if (output.IsJson) output.Json(DifferencesDocument.FromResult(result));
        else if (result.Fleet is { } fleet) ShowFleet(output, fleet);
        else ShowPair(output, result.Pair!);
    }

    /// <summary>The verdict of a comparison of two sides.</summary>
    public static string Verdict(Comparison pair)
    {
        var apps = pair.Differences.Select(one => one.App).Distinct().Count();
        return apps == 0
            ? $"{pair.There.Name} matches {pair.Wanted.Name}: {Words.Count(pair.Same, "app")}"
            : $"{pair.There.Name} differs from {pair.Wanted.Name} in {Words.Count(apps, "app")}; {pair.Same} the same";
    }

    /// <summary>The verdict of a comparison of many machines.</summary>
    public static string Verdict(ComparedFleet fleet)
    {
        var unreadable = fleet.Unreadable.Count > 0 ? $", {Words.Count(fleet.Unreadable.Count, "file")} unreadable" : "";
        var all = fleet.Machines.Count;
        return fleet.Drifted == 0
            ? $"{(all == 1 ? "1 machine matches" : $"all {all} machines match")} {fleet.Wanted.Name}{unreadable}"
            : $"{fleet.Drifted} of {Words.Count(all, "machine")} differ{(fleet.Drifted == 1 ? "s" : "")} from {fleet.Wanted.Name}"
                + unreadable;
    }

    /// <summary>How often each kind of difference occurs, in words.</summary>
    public static string Counts(IEnumerable<Difference> differences) => string.Join(
        ", ", differences.GroupBy(one => one.Kind).OrderBy(group => group.Key)
            .Select(group => $"{group.Count()} {DifferenceWords.Kinds.WordOf(group.Key)}"));

    private static void ShowPair(Output output, Comparison pair)
    {
        var table = new TextTable(Shapes.Differences);
        foreach (var one in pair.Differences)
            table.Add(
                new Cell(DifferenceWords.Kinds.WordOf(one.Kind), one.Kind <= DifferenceKind.Older ? Tone.Attention : Tone.Plain),
                new Cell(one.App, Tone.Strong), Shown(one.Wanted), Shown(one.There),
                one.Kind is DifferenceKind.Missing or DifferenceKind.Older or DifferenceKind.Newer or DifferenceKind.OnlyThere
                    ? "" : one.Words);
        output.List(Verdict(pair), table, "");
    }

    private static void ShowFleet(Output output, ComparedFleet fleet)
    {
        var table = new TextTable(Shapes.Machines);
        var shown = fleet.Machines.Where(machine => output.IsVerbose || !output.IsTerminal || machine.Differences.Count > 0)
            .Take(output.IsVerbose || !output.IsTerminal ? int.MaxValue : MostMachines).ToList();
        foreach (var machine in shown)
            table.Add(
                new Cell(machine.There.Name, machine.Differences.Count > 0 ? Tone.Strong : Tone.Plain),
                $"{machine.Differences.Select(one => one.App).Distinct().Count()}",
                machine.There.Date is { } date ? PlainText.Date(date) : "",
                new Cell(
                    machine.Differences.Count == 0 ? "none" : Counts(machine.Differences),
                    machine.Differences.Count > 0 ? Tone.Attention : Tone.Quiet),
                string.Join(", ", machine.Differences.Take(MostReasons).Select(one => $"{one.App} {one.Words}".TrimEnd())));
        output.List(Verdict(fleet), table, "");
        foreach (var side in fleet.Unreadable)
            output.Line(new Cell("unreadable  ", Tone.Attention), new Cell(side.Name, Tone.Strong), $": {side.Fault}");
        if (fleet.Drifted > shown.Count) output.Line(new Cell("--verbose lists all machines", Tone.Quiet));
        if (fleet.Drifted == 0) return;
        var worst = fleet.Apps.Take(MostReasons).Select(pair => $"{pair.App} on {Words.Count(pair.Machines, "machine")}");
        output.Line(new Cell($"differs most: {string.Join(", ", worst)}", Tone.Quiet));
    }

    private static string Shown(ComparedApp? app) =>
        app is null ? "-" : app.Version?.Text ?? (app.Follows is { } follows ? $"@{follows}" : "newest");
}
