using AmberCrate.Core.Bundles;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Tests.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Pins;

public sealed class PinTests
{
    private static readonly DateOnly Today = new(2026, 11, 26);

    private static readonly FixedOffers Offers = new(
        ("guild", CardSamples.With("scrim", "4.1.0 2026-01-01", "4.2.0 2026-02-01", "4.2.1 2026-03-01", "5.0.0 2026-04-01")),
        ("guild", CardSamples.With("other", "1.0 2026-01-01", "2.0 2026-02-01")));

    [Theory]
    [InlineData("scrim 4.1.0 guild", "4.1.0", "keep 4.1.0 pinned: pinned to @4.1.0 (show); 5.0.0 is newer")]
    [InlineData("scrim 4.1.0 guild", "4.2.x", "upgrade 4.2.1: pinned to @4.2.x (show); 5.0.0 is newer")]
    [InlineData("scrim 4.2.0 guild 4.x", "4.2.0", "keep 4.2.0 pinned: pinned to @4.2.0 (show); 4.2.1 is newer")]
    [InlineData("scrim 4.1.0 guild", "4.1.0 2026-11-25", "upgrade 5.0.0")]
    [InlineData("scrim 4.1.0 guild", "4.1.0 2026-11-26",
        "keep 4.1.0 pinned: pinned to @4.1.0 until 2026-11-26 (show); 5.0.0 is newer")]
    [InlineData("scrim 5.0.0 guild", "4.2.x", "")]
    public void An_upgrade_obeys_a_pin_until_its_last_day_is_over(string installed, string pin, string expected)
    {
        var plan = new Planner(Machine(installed, pin), Offers).Upgrade([]);
        string.Join(", ", plan.Items.Select(Shown)).ShouldBe(expected);
        RunReport.Foreseen(plan).Items.Count(item => item.Outcome == Outcome.Pinned)
            .ShouldBe(expected.StartsWith("keep", StringComparison.Ordinal) ? 1 : 0);
    }

    [Theory]
    [InlineData("scrim@5.0.0", "scrim 5.0.0 cannot be installed")]
    [InlineData("scrim@4.2.x", null)]
    [InlineData("scrim", null)]
    public void What_a_pin_does_not_allow_is_refused_with_its_reason(string reference, string? refused)
    {
        var machine = Machine("scrim 4.1.0 guild", "4..5");
        Plan Act() => new Planner(machine, Offers).Install([AppReference.Parse(reference)]);
        if (refused is null) Act().Items.ShouldHaveSingleItem().To!.Text.ShouldStartWith("4.");
        else
        {
            var problem = Should.Throw<ProblemException>(Act).Problem;
            (problem.Code, problem.What, problem.Why).ShouldBe((ProblemCode.Refused, refused, "scrim is pinned to @4..5 (show)"));
            problem.Remedy.ToString().ShouldStartWith("acrate pin scrim --lift");
        }
    }

    [Fact]
    public void An_app_that_is_not_there_yet_is_installed_as_its_pin_says() =>
        new Planner(Machine("other 1.0 guild", "4.2.x"), Offers).Install([AppReference.Parse("scrim")])
            .Items.ShouldHaveSingleItem().To!.Text.ShouldBe("4.2.1");

    [Fact]
    public void A_pin_is_not_what_an_app_follows()
    {
        var app = new Planner(Machine("scrim 4.1.0 guild", "4.2.x"), Offers).Upgrade([]).Items.ShouldHaveSingleItem();
        app.Follows.ShouldBeNull();
    }

    [Theory]
    [InlineData("to = \"4.2.x\", reason = \"show\", until = 2027-01-31", "install 4.2.1")]
    [InlineData("to = \"4.2.x\"", "install 4.2.1")]
    public void A_pin_travels_in_a_bundle_and_holds_from_the_first_plan_on(string pin, string expected)
    {
        var bundle = BundleReader.Read($"bundle = 1\n[[apps]]\nreference = \"scrim\"\npin = {{ {pin} }}\n", "b", [])!;
        BundleReader.Read(BundleWriter.Write(bundle), "b", [])!.Apps[0].Pin.ShouldBe(bundle.Apps[0].Pin);
        var plan = new Planner(new MachineState(FixedOffers.Here, []) { Pins = new PinList([], Today) }, Offers).Equip(bundle);
        string.Join(", ", plan.Items.Select(Shown)).ShouldBe(expected);
        plan.Pins.ShouldHaveSingleItem().After.ShouldBe(bundle.Apps[0].Pin);
    }

    [Theory]
    [InlineData("reference = \"Scrim Paint\"\npin = { to = \"1.x\" }", "expected only where reference names the app by its id")]
    [InlineData("reference = \"scrim\"\npin = { }", "expected a string, but the key is missing")]
    [InlineData("reference = \"scrim\"\npin = { to = \"1.x\", until = \"soon\" }", "expected a date")]
    public void A_faulty_pin_in_a_bundle_is_told(string entry, string fault)
    {
        var faults = new List<AmberCrate.Core.Problems.FormatFault>();
        BundleReader.Read($"bundle = 1\n[[apps]]\n{entry}\n", "b", faults).ShouldBeNull();
        faults.ShouldContain(found => found.ToString().Contains(fault));
    }

    [Fact]
    public void A_pin_is_the_same_after_it_was_on_record()
    {
        var pin = PinOf("4.2.x 2027-01-31") with { Since = new DateTimeOffset(2026, 11, 26, 1, 2, 3, TimeSpan.Zero) };
        PinJson.Read(PinJson.Write(pin)).ShouldBe(pin);
        PinJson.Read(PinJson.Write(pin with { Reason = null, Until = null })).Reason.ShouldBeNull();
        foreach (var broken in new[] { "", "{}", "[1]", "{\"app\":\"a\",\"selector\":\"\",\"since\":\"2026-01-01T00:00:00Z\"}" })
            Should.Throw<MalformedException>(() => PinJson.Read(broken));
    }

    [Fact]
    public void The_pins_of_an_earlier_time_are_told_by_what_the_runs_since_did_to_them()
    {
        var (old, now, byHand) = (PinOf("4.1.x"), PinOf("4.2.x"), PinOf("5.x"));
        PlannedPin[] since = [new(old.App, old, now), new(old.App, null, old)];
        RunHistory.Before([now], since[..1]).ShouldBe([old]);
        RunHistory.Before([now], since).ShouldBeEmpty();
        RunHistory.Before([], [new PlannedPin(old.App, old, null)]).ShouldBe([old]);
        RunHistory.Before([byHand], since).ShouldBe([byHand]);
    }

    private static MachineState Machine(string installed, string pin) =>
        FixedOffers.Machine(installed).With(new PinList([PinOf(pin)], Today));

    private static Pin PinOf(string text)
    {
        var words = text.Split(' ');
        return new Pin(AppId.Parse("scrim"), VersionSelector.Parse(words[0]))
        {
            Reason = "show", Until = words.Length > 1 ? DateOnly.ParseExact(words[1], "yyyy-MM-dd") : null,
        };
    }

    private static string Shown(PlanItem item) =>
        $"{ActionWords.Actions.WordOf(item.Action)} {item.To}{(item.IsPinned ? " pinned" : "")}"
            + (item.Note.IsEmpty ? "" : $": {item.Note}");
}
