using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Tests.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Runs;

public sealed class RunUndoTests
{
    private static readonly FixedOffers Offers = new(
        ("guild", CardSamples.With("scrim", "4.1.0 2026-01-01", "4.2.0 2026-02-01", "5.0.0 2026-04-01")),
        ("guild", CardSamples.With("cue", "1.0 2026-01-01")));

    [Theory]
    [InlineData("scrim 5.0.0 guild", "scrim 4.2.0 guild", "scrim 5.0.0 guild", "4.2.0", "downgrade 4.2.0 from the shelf")]
    [InlineData("scrim 5.0.0 guild", "scrim 4.2.0 guild", "scrim 5.0.0 guild", "", "downgrade 4.2.0")]
    [InlineData("scrim 5.0.0 guild", "scrim 3.0 guild", "scrim 5.0.0 guild", "",
        "cannot : 3.0 is neither on this machine nor offered by guild with the same file")]
    [InlineData("scrim 5.0.0 guild", "", "scrim 5.0.0 guild", "", "uninstall ")]
    [InlineData("", "cue 1.0 guild", "", "", "install 1.0")]
    [InlineData("scrim 4.1.0 guild", "scrim 4.2.0 guild", "scrim 5.0.0 guild", "4.2.0",
        "upgrade 4.2.0 from the shelf, changed again since that run")]
    [InlineData("", "scrim 4.2.0 guild", "scrim 5.0.0 guild", "", "install 4.2.0, uninstalled since that run")]
    [InlineData("scrim 4.2.0 guild 4.x", "scrim 4.2.0 guild", "scrim 4.2.0 guild 4.x", "4.2.0",
        "remember 4.2.0, no longer follows @4.x")]
    [InlineData("scrim 4.2.0 guild", "scrim 4.2.0 guild", "scrim 4.2.0 guild", "4.2.0", null)]
    public void Each_app_goes_back_to_what_it_was_before_the_run(
        string now, string before, string after, string shelf, string? expected)
    {
        var item = new RecordedItem(
            AppReference.Parse((before + after).Split(' ')[0]), PlanAction.Upgrade, null, Outcome.Done)
        {
            Before = App(before), After = App(after),
        };
        var plan = Undo(now, shelf).Plan(7, [item]);
        string.Join(", ", plan.Items.Select(Shown)).ShouldBe(expected ?? "");
        var again = Undo(before, shelf.Length == 0 ? "" : after.Split(' ')[1]);
        if (now == after && now.Length > 0 && expected?.StartsWith("cannot", StringComparison.Ordinal) == false)
            again.Plan(8, [item with { Before = App(after), After = App(before) }]).Items.ShouldNotBeEmpty();
    }

    [Fact]
    public void Nothing_is_undone_that_would_leave_another_app_without_what_it_needs()
    {
        var machine = new MachineState(FixedOffers.Here,
        [
            App("scrim 5.0.0 guild")!, App("cue 1.0 guild")! with { Needs = [Core.Cards.RelatedApp.Parse("scrim@5..")] },
        ]);
        var item = new RecordedItem(AppReference.Parse("scrim"), PlanAction.Upgrade, null, Outcome.Done)
        {
            Before = App("scrim 4.2.0 guild"), After = App("scrim 5.0.0 guild"),
        };
        var problem = Should.Throw<ProblemException>(() => new RunUndo(machine, Offers, _ => true).Plan(7, [item])).Problem;
        (problem.Code, problem.What).ShouldBe((ProblemCode.Refused, "run 7 cannot be undone"));
        problem.Details.Select(detail => detail.ToString()).ShouldBe(["cue 1.0 needs scrim@5.."]);
    }

    [Theory]
    [InlineData("scrim 5.0.0 guild", "downgrade 4.2.0 from the shelf")]
    [InlineData("scrim 4.2.0 guild", "")]
    public void Of_a_run_that_was_cut_off_the_machine_tells_what_it_had_done(string now, string expected)
    {
        var item = new RecordedItem(AppReference.Parse("scrim"), PlanAction.Upgrade, AppVersion.Parse("5.0.0"), null)
        {
            Before = App("scrim 4.2.0 guild"),
        };
        string.Join(", ", Undo(now, "4.2.0").Plan(7, [item]).Items.Select(Shown)).ShouldBe(expected);
    }

    [Fact]
    public void The_machine_before_a_run_is_told_by_walking_back()
    {
        RecordedItem Item(string before, string after) =>
            new(AppReference.Parse((before + after).Split(' ')[0]), PlanAction.Upgrade, null, Outcome.Done)
            {
                Before = App(before), After = App(after),
            };
        var runs = new[] { [Item("scrim 4.2.0 guild", "scrim 5.0.0 guild")], new[] { Item("", "scrim 4.2.0 guild"),
            Item("cue 1.0 guild", "") } };
        string Walked(int count) => string.Join(
            ",", RunHistory.Before([App("scrim 5.0.0 guild")!], runs.Take(count)).Select(app => $"{app.Id} {app.Version}"));
        (Walked(0), Walked(1), Walked(2)).ShouldBe(("scrim 5.0.0", "scrim 4.2.0", "cue 1.0"));
    }

    private static RunUndo Undo(string now, string shelf) => new(
        new MachineState(FixedOffers.Here, App(now) is { } app ? [app] : []), Offers, app => app.Version.Text == shelf);

    private static InstalledApp? App(string text) => text.Length == 0 ? null : FixedOffers.Installed(text);

    private static string Shown(PlanItem item)
    {
        var notes = item.Notes.Where(note => note.Code != "from-shelf").Select(note => note.Text.ToString()).ToList();
        return $"{ActionWords.Actions.WordOf(item.Action)} {item.To}{(item.Restores is null ? "" : " from the shelf")}"
            + (item.Action == PlanAction.Cannot ? $": {string.Join("; ", notes)}" : string.Concat(notes.Select(note =>
                $", {note}")));
    }
}
