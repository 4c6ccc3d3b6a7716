using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.SystemCalls;
using Spectre.Console;

namespace AmberCrate.Cli.Running;

/// <summary>
/// Lets a user untick items of a plan on the terminal. What cannot be there without them is left out too, as the plan then
/// shows.
/// </summary>
internal static class PickView
{
    private const int LinesForTheRest = 4, LeastLines = 3, UsualLines = 24;

    /// <summary>Asks which items of a plan; null where the user calls it off.</summary>
    /// <exception cref="OperationCanceledException">The user interrupted instead of answering.</exception>
    public static Plan? Ask(Output output, Plan plan, CancellationToken cancel)
    {
        var items = plan.Items.Where(item => item.Changes).ToList();
        if (items.Count == 0) return plan;
        return Ask(output, [.. items.Select(item => (item.Id, WordsOf(item)))], cancel) is { } chosen
            ? PlanPicking.Without(plan, PlanPicking.Following(plan, items.Select(item => item.Id).Except(chosen)))
            : null;
    }

    /// <summary>Asks which of a list of names; null where the user calls it off.</summary>
    /// <exception cref="OperationCanceledException">The user interrupted instead of answering.</exception>
    public static IReadOnlySet<string>? Ask(
        Output output, IReadOnlyList<(string Name, string Words)> choices, CancellationToken cancel)
    {
        if (choices.Count == 0) return new HashSet<string>();
        if (!output.HasEscapes)
            throw new Problem(
                ProblemCode.BadCommandLine, "--pick needs a terminal that it may draw on",
                "NO_COLOR, --no-colour or TERM=dumb forbids it", "name the apps, or use --skip").ToException();
        output.Flush();
        var words = choices.ToDictionary(choice => choice.Name, choice => choice.Words, StringComparer.Ordinal);
        var width = words.Keys.Max(name => name.Length);
        var prompt = new MultiSelectionPrompt<string>
        {
            Title = "", Required = false, PageSize = Math.Max(LeastLines, Height - LinesForTheRest),
            HighlightStyle = Palette.Attention,
            InstructionsText = "space: tick or untick · enter: go on · escape: leave",
            MoreChoicesText = "more above and below",
            Converter = name => Markup.Escape(Printable.Line($"{name.PadRight(width)}  {words[name]}")),
        };
        prompt.AddChoices(words.Keys);
        foreach (var name in words.Keys) prompt.Select(name);
        using var keys = TerminalKeys.Open(isLeftByEscape: false);
        var isCalledOff = false;
        prompt.AddCancelResult(() =>
        {
            isCalledOff = true;
            return [];
        });
        var chosen = prompt.ShowAsync(output.Moving, cancel).GetAwaiter().GetResult();
        return isCalledOff ? null : chosen.ToHashSet(StringComparer.Ordinal);
    }

    private static int Height => TerminalDevice.Size() is { Lines: > 0 and var lines } ? lines : UsualLines;

    private static string WordsOf(PlanItem item)
    {
        var needed = item.NeededBy.Count > 0 ? $", needed by {string.Join(", ", item.NeededBy)}" : "";
        return $"{Words.WordFor(item.Action)} {item.To ?? item.From}{needed}";
    }
}
