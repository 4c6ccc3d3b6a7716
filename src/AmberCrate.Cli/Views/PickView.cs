using AmberCrate.Core.Planning;
using Spectre.Console;

namespace AmberCrate.Cli.Views;

/// <summary>
/// Lets a person untick items of a plan on the terminal. What cannot be there without them is left out too, as the plan then
/// shows.
/// </summary>
internal static class PickView
{
    private const int LinesForTheRest = 4, LeastLines = 3;

    /// <summary>Asks; null where the person calls it off.</summary>
    /// <exception cref="OperationCanceledException">The person interrupted instead of answering.</exception>
    public static Plan? Ask(Output output, Plan plan, CancellationToken cancel)
    {
        var items = plan.Items.Where(item => item.Changes).ToDictionary(item => item.Id, StringComparer.Ordinal);
        if (items.Count == 0) return plan;
        output.Flush();
        var width = items.Keys.Max(id => id.Length);
        var prompt = new MultiSelectionPrompt<string>
        {
            Title = "", Required = false, PageSize = Math.Max(LeastLines, Console.WindowHeight - LinesForTheRest),
            HighlightStyle = Palette.Attention,
            InstructionsText = "space: tick or untick · enter: go on · escape: leave",
            MoreChoicesText = "more above and below", Converter = id => Markup.Escape(Printable.Line(Line(items[id], width))),
        };
        prompt.AddChoices(items.Keys);
        foreach (var id in items.Keys) prompt.Select(id);
        var isCalledOff = false;
        prompt.AddCancelResult(() =>
        {
            isCalledOff = true;
            return [];
        });
        var chosen = prompt.ShowAsync(output.Moving, cancel).GetAwaiter().GetResult();
        return isCalledOff ? null : PlanPicking.Without(plan, PlanPicking.Following(plan, items.Keys.Except(chosen)));
    }

    private static string Line(PlanItem item, int width)
    {
        var needed = item.NeededBy.Count > 0 ? $", needed by {string.Join(", ", item.NeededBy)}" : "";
        return $"{item.Id.PadRight(width)}  {Words.Of(item.Action)} {item.To ?? item.From}{needed}";
    }
}
