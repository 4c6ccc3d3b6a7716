using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Plans;
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
        var plan = Undo(now, shelf).Plan(7, [item], default);
        string.Join(", ", plan.Items.Select(Shown)).ShouldBe(expected ?? "");
        var again = Undo(before, shelf.Length == 0 ? "" : after.Split(' ')[1]);
        if (now == after && now.Length > 0 && expected?.StartsWith("cannot", StringComparison.Ordinal) == false)
            again.Plan(8, [item with { Before = App(after), After = App(before) }], default).Items.ShouldNotBeEmpty();
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
        var problem = Should.Throw<ProblemException>(
            () => new RunUndo(machine, Offers, _ => true).Plan(7, [item], default)).Problem;
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
        string.Join(", ", Undo(now, "4.2.0").Plan(7, [item], default).Items.Select(Shown)).ShouldBe(expected);
    }

    [Theory]
    [InlineData(-1, "downgrade 4.2.0 from the shelf")]
    [InlineData(1, "refused: scrim is pinned to @5.x (no reason given), and would be 4.2.0")]
    public void A_pin_that_was_there_before_the_run_does_not_keep_it_from_being_undone(int pinned, string expected)
    {
        var begun = new DateTimeOffset(2026, 6, 1, 0, 0, 0, default);
        var pin = new Pin(AppId.Parse("scrim"), VersionSelector.Parse("5.x")) { Since = begun.AddDays(pinned) };
        var machine = new MachineState(FixedOffers.Here, [App("scrim 5.0.0 guild")!])
        {
            Pins = new PinList([pin], new DateOnly(2026, 6, 1)),
        };
        var item = new RecordedItem(AppReference.Parse("scrim"), PlanAction.Upgrade, null, Outcome.Done)
        {
            Before = App("scrim 4.2.0 guild"), After = App("scrim 5.0.0 guild"),
        };
        Said(() => new RunUndo(machine, Offers, _ => true).Plan(7, [item], begun)).ShouldBe(expected);
    }

    [Theory]
    [InlineData("guild", true, "install 1.0, from the file that is still on this machine")]
    [InlineData("guild", false, "cannot : 1.0 is neither on this machine nor offered by guild with the same file")]
    [InlineData("paused", true, "install 1.0, from the file that is still on this machine")]
    [InlineData("paused", false, "cannot : 1.0 is not on this machine any more, and the catalogue loft is paused")]
    [InlineData("gone", false, "cannot : 1.0 is not on this machine any more, and the catalogue loft is not here any more")]
    public void An_app_is_put_back_without_its_catalogue_from_what_was_kept_of_it(string how, bool isKept, string expected)
    {
        var before = FixedOffers.Installed($"rope 1.0 {(how == "guild" ? "guild" : "loft")} 1.x") with { IsUnsigned = false };
        var offers = new FixedOffers(("guild", CardSamples.With("rope", "2.0 2026-01-01")))
        {
            Paused = how == "paused" ? [CatalogueName.Parse("loft")] : [],
        };
        var kept = CardSamples.With("rope", "1.0 2026-01-01");
        var machine = new MachineState(FixedOffers.Here, [])
        {
            Kept = app => isKept
                ? KeptCard.FromCard(
                    kept, kept.Releases[0], kept.Releases[0].Deliveries.First(), app.Sha256, new Uri("file:///cat/"))
                : null,
        };
        var item = new RecordedItem(AppReference.Parse("rope"), PlanAction.Remove, null, Outcome.Done) { Before = before };
        var plan = new RunUndo(machine, offers, _ => false).Plan(7, [item], default);
        string.Join(", ", plan.Items.Select(Shown)).ShouldBe(expected);
        if (isKept) plan.Items[0].Follows.ShouldBe(before.Follows);
    }

    [Fact]
    public void What_excludes_an_app_that_cannot_go_back_is_not_put_beside_it()
    {
        // The run took cue away and changed scrim. The way back would put cue beside the scrim that it excludes.
        var excluding = App("cue 1.0 guild")! with { Conflicts = [RelatedApp.Parse("scrim@5..")] };
        var machine = new MachineState(FixedOffers.Here, [App("scrim 5.0.0 guild")!]);
        RecordedItem[] items =
        [
            new(AppReference.Parse("cue"), PlanAction.Remove, null, Outcome.Done) { Before = excluding },
            new(AppReference.Parse("scrim"), PlanAction.Upgrade, null, Outcome.Done)
            {
                Before = App("scrim 3.0.0 guild"), After = App("scrim 5.0.0 guild"),
            },
        ];
        Said(() => new RunUndo(machine, Offers, app => app.Id.Text == "cue").Plan(7, items, default))
            .ShouldBe("refused: cue 1.0 cannot be there beside scrim@5..");
    }

    [Theory]
    [InlineData("upgrade scrim failed", "scrim 4.2.0", "", "scrim")]
    [InlineData("upgrade scrim failed", "scrim 5.0.0", "", "")]
    [InlineData("install scrim failed", "", "", "scrim")]
    [InlineData("install scrim failed", "", "install scrim done,uninstall scrim done", "")]
    [InlineData("install scrim failed", "", "install scrim failed", "scrim")]
    [InlineData("upgrade scrim in-use", "scrim 4.2.0", "upgrade cue done", "scrim")]
    [InlineData("upgrade scrim skipped", "scrim 4.2.0 5.x", "", "")]
    [InlineData("upgrade scrim open", "scrim 5.0.0", "", "")]
    [InlineData("upgrade scrim done", "scrim 4.2.0", "", "")]
    public void What_is_left_of_a_run_is_what_nobody_has_decided_anew(string run, string now, string later, string expected)
    {
        var words = now.Split(' ');
        var machine = new MachineState(FixedOffers.Here, now.Length == 0 ? [] :
            [FixedOffers.Installed($"{words[0]} {words[1]} guild {string.Join(' ', words[2..])}".Trim())]);
        var items = later.Split(',', StringSplitOptions.RemoveEmptyEntries).Select(Item).ToList();
        string.Join(",", RunLeft.Find([Item(run)], machine, app => items.Where(item => item.Reference.Name == app))
            .Select(item => item.Reference.Name)).ShouldBe(expected);

        static RecordedItem Item(string text)
        {
            var words = text.Split(' ');
            return new RecordedItem(
                AppReference.Parse(words[1]), ActionWords.Actions.Read(words[0]), null,
                words[2] == OutcomeWords.NotEnded ? null : OutcomeWords.Outcomes.Read(words[2]))
            {
                Before = words[0] == "install" ? null : App("scrim 4.2.0 guild"),
            };
        }
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

    private static string Said(Func<Plan> plan)
    {
        try
        {
            return string.Join(", ", plan().Items.Select(Shown));
        }
        catch (ProblemException refused)
        {
            return "refused: " + string.Join("; ", refused.Problem.Details);
        }
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
