using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Running;

/// <summary>Shows what would be deleted to free space.</summary>
internal static class ReclaimPlanView
{
    private const int MostShown = 20;

    /// <summary>Shows what would be deleted, and what stays.</summary>
    public static void Show(Output output, ReclaimPlan plan)
    {
        if (output.IsJson) return;
        var table = new TextTable(Shapes.Room);
        foreach (var group in plan.Items.Where(item => item.Kind is ReclaimKind.Download or ReclaimKind.Log or ReclaimKind.Record)
            .GroupBy(item => (item.Kind, item.Kept)))
            table.Add(
                Count(group.Key.Kind, group.Sum(item => item.Count)), Words.Size(group.Sum(item => item.Size)), "",
                new Cell(group.Key.Kept ?? "", Tone.Quiet), Path.GetDirectoryName(group.First().Path));
        var each = plan.Items.Where(item => item.Kind is ReclaimKind.OldVersion or ReclaimKind.Leftover)
            .OrderBy(item => item.Kept is not null).ThenByDescending(item => item.Size).ToList();
        foreach (var item in each.Take(output.IsVerbose ? each.Count : MostShown))
            table.Add(
                item.Kind == ReclaimKind.OldVersion ? "old version" : "leftover", Words.Size(item.Size),
                new Cell(item.App?.Text ?? "", Tone.Strong), new Cell(item.Kept ?? "", Tone.Quiet), item.Path);
        output.List($"{Words.Size(plan.Size)} can be freed", table,
            $"what undo needs stays for {Words.Count(plan.UndoDays, "day")}");
        if (output.IsVerbose || each.Count <= MostShown) return;
        var going = each.Skip(MostShown).Count(item => item.Kept is null);
        output.Line(new Cell($"and {each.Count - MostShown} more, {going} of which go; --verbose lists all", Tone.Quiet));
    }

    private static string Count(ReclaimKind kind, int count) => kind switch
    {
        ReclaimKind.Download => Words.Count(count, "download"),
        ReclaimKind.Record => Words.Count(count, "record of a run", "records of runs"),
        ReclaimKind.OldVersion or ReclaimKind.Leftover or ReclaimKind.Log => Words.Count(count, "log"),
    };
}
