using AmberCrate.Core.Bundles;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Planning;

public sealed class PlannerTests
{
    private static readonly FixedOffers Offers = new(
        ("house", CardSamples.With("cue-ledger", "1.0 2026-01-01")),
        ("guild", CardSamples.With("cue-ledger", "2.0 2026-02-01")),
        ("guild", CardSamples.With(
            "scrim-paint", "4.1.0 2026-01-01", "4.2.0 2026-02-01", "4.2.1 2026-03-01", "5.0.0 2026-04-01",
            "5.1.0-rc1 2026-05-01")),
        ("guild", CardSamples.With("backcloth", "3.6.0 2026-01-01 lts", "3.6.1 2026-02-01 lts", "4.0.0 2026-01-15")),
        ("guild", CardSamples.With("tryout", "0.1-beta 2026-01-01", "0.2-beta 2026-02-01")),
        ("guild", CardSamples.With("scrim-wash", "1.0 2026-01-01") with { Name = "Scrim Paint" }),
        ("guild", CardSamples.With("elsewhere", "1.0 2026-01-01 stable aarch64-linux-gnu")));

    [Theory]
    [InlineData("scrim-paint", "install 5.0.0")]
    [InlineData("scrim-paint@4.2.x", "install 4.2.1")]
    [InlineData("scrim-paint@4.1.0", "install 4.1.0")]
    [InlineData("scrim-paint@4..5", "install 4.2.1")]
    [InlineData("scrim-paint@preview", "install 5.1.0-rc1")]
    [InlineData("scrim-paint@5.1.0-rc1", "install 5.1.0-rc1")]
    [InlineData("backcloth", "install 4.0.0")]
    [InlineData("backcloth@lts", "install 3.6.1")]
    [InlineData("tryout", "install 0.2-beta")]
    [InlineData("Cue Ledger", "install 1.0")]
    [InlineData("cue-ledger@2..", "install 2.0")]
    [InlineData("guild:cue-ledger", "install 2.0")]
    public void A_bare_machine_gets_the_newest_that_is_asked_for(string reference, string expected) =>
        Install([], reference).ShouldBe([expected]);

    [Theory]
    [InlineData("scrim-paint 5.0.0 guild", "scrim-paint", "keep 5.0.0")]
    [InlineData("scrim-paint 4.1.0 guild", "scrim-paint", "keep 4.1.0: 5.0.0 is available: acrate upgrade scrim-paint")]
    [InlineData("scrim-paint 4.2.1 guild 4.2.x", "scrim-paint", "keep 4.2.1: follows @4.2.x; 5.0.0 is newer")]
    [InlineData("scrim-paint 4.2.1 guild", "scrim-paint@4.2.x",
        "remember 4.2.1: now follows @4.2.x; 5.0.0 is newer")]
    [InlineData("scrim-paint 4.1.0 guild", "scrim-paint@4.2.x", "upgrade 4.2.1")]
    [InlineData("scrim-paint 5.0.0 guild", "scrim-paint@4.2.x", "downgrade 4.2.1")]
    [InlineData("scrim-paint 4.2.1 guild 4.2.x", "scrim-paint@stable",
        "remember 4.2.1: now follows @stable; 5.0.0 is available: acrate upgrade scrim-paint")]
    [InlineData("cue-ledger 2.0 guild", "cue-ledger", "keep 2.0")]
    [InlineData("gone 1.0 guild", "scrim-paint@4.1.0", "install 4.1.0")]
    public void An_installed_app_changes_only_where_it_must(string installed, string reference, string expected) =>
        Install([installed], reference).ShouldBe([expected]);

    [Theory]
    [InlineData(ProblemCode.NothingMatched, "no app is called \"scrim-pant\"", "scrim-pant")]
    [InlineData(ProblemCode.Ambiguous, "\"scrim paint\" fits more than one app", "scrim paint")]
    [InlineData(ProblemCode.NothingMatched, "scrim-paint has no release that fits @9.x", "scrim-paint@9.x")]
    [InlineData(ProblemCode.NothingMatched, "there is no catalogue \"loft\"", "loft:scrim-paint")]
    [InlineData(ProblemCode.NothingMatched, "elsewhere has no release for this machine", "elsewhere")]
    [InlineData(ProblemCode.Refused, "scrim-paint is named twice, with different versions: scrim-paint@4.x and scrim-paint@5.x",
        "scrim-paint@4.x", "scrim-paint@5.x")]
    [InlineData(ProblemCode.Refused, "gantry is installed from guild, and cannot be changed to house", "house:gantry")]
    [InlineData(ProblemCode.NothingMatched, "2 of the names cannot be used", "backcloth", "lamp", "rope")]
    public void A_list_with_a_fault_is_refused_whole(ProblemCode code, string what, params string[] references)
    {
        var offers = new FixedOffers(("house", CardSamples.With(
            "gantry", "1.0 2026-01-01")), ("guild", CardSamples.With("gantry", "1.0 2026-01-01")),
            ("guild", CardSamples.With("scrim-wash", "1.0 2026-01-01") with { Name = "Scrim-Paint!" }),
            ("guild", Offers.Find(AppId.Parse("scrim-paint"))[0].Card),
            ("guild", Offers.Find(AppId.Parse("backcloth"))[0].Card), ("guild", Offers.Find(AppId.Parse("elsewhere"))[0].Card));
        var planner = new Planner(FixedOffers.Machine("gantry 1.0 guild"), offers);
        var problem = Should.Throw<ProblemException>(() => planner.Install(references.Select(AppReference.Parse))).Problem;
        (problem.Code, problem.What).ShouldBe((code, what));
    }

    [Fact]
    public void The_same_reference_twice_is_one_item() =>
        Install([], "scrim-paint@4.2.x", "scrim-paint@4.2.x").ShouldBe(["install 4.2.1"]);

    [Fact]
    public void Upgrade_stays_inside_what_was_asked_for()
    {
        var machine = FixedOffers.Machine(
            "backcloth 3.6.0 guild lts", "cue-ledger 1.0 house", "scrim-paint 4.2.0 guild 4.2.x", "gone 1.0 guild");
        Show(new Planner(machine, Offers).Upgrade([])).ShouldBe(["upgrade 3.6.1: 4.0.0 is newer",
            "upgrade 4.2.1: 5.0.0 is newer"]);
        Show(new Planner(machine, Offers).Upgrade(["Cue Ledger", "gone"])).ShouldBe(
            ["keep 1.0", "cannot : guild does not offer it any more"]);
        Show(new Planner(FixedOffers.Machine("scrim-paint 4.2.1 guild 4.2.x"), Offers).Upgrade([])).ShouldBe(
            ["keep 4.2.1: follows @4.2.x; 5.0.0 is newer"]);
    }

    [Fact]
    public void Uninstall_takes_installed_apps_only()
    {
        var planner = new Planner(FixedOffers.Machine("cue-ledger 1.0 house"), Offers);
        planner.Uninstall(["cueledger", "cue-ledger"]).Items.ShouldHaveSingleItem().Action.ShouldBe(PlanAction.Remove);
        var problem = Should.Throw<ProblemException>(() => planner.Uninstall(["cue-leger"])).Problem;
        (problem.Code, problem.What).ShouldBe((ProblemCode.NothingMatched, "no installed app is called \"cue-leger\""));
        problem.Details.ShouldBe(["cue-ledger"]);
    }

    [Theory]
    [InlineData("", "scrim-paint", null, "install 5.0.0")]
    [InlineData("", "scrim-paint@4.2.x", "4.2.0", "install 4.2.0")]
    [InlineData("scrim-paint 4.2.0 guild", "scrim-paint", "4.2.1", "upgrade 4.2.1")]
    [InlineData("scrim-paint 5.0.0 guild", "scrim-paint", "4.2.1", "downgrade 4.2.1")]
    [InlineData("scrim-paint 4.2.1 guild", "scrim-paint", "4.2.1", "keep 4.2.1: 5.0.0 is available: acrate upgrade scrim-paint")]
    [InlineData("scrim-paint 4.2.0 guild", "scrim-paint@4.x", null,
        "remember 4.2.0: now follows @4.x; 4.2.1 is available: acrate upgrade scrim-paint")]
    [InlineData("scrim-paint 4.2.0 guild 4.x", "scrim-paint", "4.2.0",
        "remember 4.2.0: no longer follows @4.x; 5.0.0 is available: acrate upgrade scrim-paint")]
    [InlineData("", "lamp", null, "cannot : no app is called \"lamp\" (searched the catalogues house, guild)")]
    [InlineData("", "scrim-paint", "9.9", "cannot : scrim-paint has no release that fits @9.9")]
    [InlineData("cue-ledger 1.0 house", "guild:cue-ledger", null,
        "cannot : cue-ledger is installed from house, and cannot be changed to guild (the app of that id may be another one "
            + "there)")]
    public void Equip_shows_the_difference(string installed, string reference, string? version, string expected)
    {
        var bundle = new Bundle
        {
            Apps = [new BundleApp(AppReference.Parse(reference), version is null ? null : AppVersion.Parse(version))],
        };
        Show(new Planner(FixedOffers.Machine(installed.Length == 0 ? [] : [installed]), Offers).Equip(bundle)).ShouldBe(
            [expected]);
    }

    [Theory]
    [InlineData("", "aarch64-linux-gnu", "install 1.0 for aarch64-linux-gnu")]
    [InlineData("", null, "cannot  for : elsewhere has no release for this machine (the machine is x86_64-linux-gnu; the "
        + "catalogue offers aarch64-linux-gnu)")]
    [InlineData("", "riscv64-linux-gnu", "cannot  for : this machine cannot run programs for riscv64-linux-gnu (it is "
        + "x86_64-linux-gnu)")]
    [InlineData("elsewhere 1.0 guild", "aarch64-linux-gnu", "cannot  for : elsewhere is installed for x86_64-linux-gnu (it "
        + "cannot be changed to aarch64-linux-gnu in place)")]
    public void The_platform_that_was_asked_for_travels_in_a_bundle(string installed, string? platform, string expected)
    {
        var key = platform is null ? "" : $"platform = \"{platform}\"\n";
        var bundle = BundleReader.Read($"bundle = 1\n[[apps]]\nreference = \"elsewhere\"\n{key}", "b", [])!;
        BundleReader.Read(BundleWriter.Write(bundle), "b", [])!.Apps[0].Platform.ShouldBe(bundle.Apps[0].Platform);
        var item = new Planner(FixedOffers.Machine(installed.Length == 0 ? [] : [installed]), Offers)
        {
            CanRun = asked => asked.Architecture != "riscv64",
        }.Equip(bundle).Items.ShouldHaveSingleItem();
        var note = item.Note.IsEmpty ? "" : $": {item.Note}";
        $"{ActionWords.Actions.WordOf(item.Action)} {item.To} for {item.Platform}{note}".ShouldBe(expected);
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void A_repair_leaves_it_as_it_was_whether_somebody_asked_for_the_app(bool isDependency)
    {
        var app = FixedOffers.Installed("scrim-paint 4.2.0 guild 4.x") with { IsDependency = isDependency };
        foreach (var isShelfWhole in new[] { true, false })
        {
            var item = new Planner(new MachineState(FixedOffers.Here, [app]), Offers)
                .Repair([(app, new AppDamage(isShelfWhole, ["it is gone"]))]).Items.ShouldHaveSingleItem();
            (item.Action, item.IsDependency, item.Follows).ShouldBe((PlanAction.Repair, isDependency, app.Follows));
            (item.Restores?.IsDependency ?? isDependency, item.Fetches).ShouldBe((isDependency, !isShelfWhole));
        }
    }

    [Theory]
    [InlineData("scrim-paint 5.0.0 guild", DueState.Current, null, null, 0, 0)]
    [InlineData("scrim-paint 4.1.0 guild", DueState.Due, "5.0.0", null, 3, 90)]
    [InlineData("scrim-paint 4.1.0 guild 4.x", DueState.Due, "4.2.1", "5.0.0", 2, 59)]
    [InlineData("scrim-paint 4.2.1 guild 4.x", DueState.Follows, null, "5.0.0", 1, 90)]
    [InlineData("scrim-paint 4.1.0 guild 4.1.0", DueState.Follows, null, "5.0.0", 3, 90)]
    [InlineData("scrim-paint 4.2.1 house", DueState.NotOffered, null, null, 0, 0)]
    [InlineData("backcloth 3.6.0 guild lts", DueState.Due, "3.6.1", "4.0.0", 1, 31)]
    [InlineData("backcloth 4.0.0 guild", DueState.Current, null, null, 0, 0)]
    [InlineData("backcloth 3.6.1 guild", DueState.Due, "4.0.0", null, 1, 14)]
    public void Due_tells_how_far_an_app_is_behind(
        string installed, DueState state, string? available, string? beyond, int releases, int days)
    {
        // What is installed belongs to the line of its release, as on a machine.
        var card = Offers.Find(FixedOffers.Installed(installed).Id)[0].Card;
        var machine = new MachineState(FixedOffers.Here, [FixedOffers.Installed(installed)]);
        machine = machine.With(machine.Apps.Select(app => app with
        {
            Line = card.Releases.FirstOrDefault(release => release.Version == app.Version)?.Line ?? app.Line,
        }));
        var entry = DueEntry.Compare(machine.Apps.Single(), Offers, machine);
        (entry.State, entry.Available?.Release.Version.Text,
            entry.Newer?.Release.Version.Text, entry.ReleasesBehind, entry.DaysBehind)
            .ShouldBe((state, available, beyond, releases, days));
    }

    [Theory]
    [InlineData("", "", DueState.NotOffered, "guild does not offer it any more")]
    [InlineData("guild", "", DueState.Paused, "the catalogue guild is paused")]
    [InlineData("", "guild", DueState.NotFetched, "the catalogue guild has never been refreshed")]
    [InlineData("", "loft", DueState.NotOffered, "guild does not offer it any more")]
    public void Why_a_catalogue_offers_nothing_of_an_installed_app_is_told(
        string paused, string unfetched, DueState state, string says)
    {
        var offers = new FixedOffers(("guild", CardSamples.With("backcloth", "1.0 2026-01-01")))
        {
            Paused = Names(paused), Unfetched = Names(unfetched),
        };
        var machine = FixedOffers.Machine("gone 1.0 guild");
        DueEntry.Compare(machine.Apps.Single(), offers, machine).State.ShouldBe(state);
        Show(new Planner(machine, offers).Upgrade(["gone"])).ShouldBe([$"cannot : {says}"]);
        var missing = Should.Throw<ProblemException>(() => NameResolver.Offered(AppReference.Parse("lantern"), offers)).Problem;
        missing.Why.ShouldBe(
            $"searched the catalogue "
                + $"guild{(unfetched.Length > 0 ? $"; never refreshed: {unfetched}" : "")}"
                + $"{(paused.Length > 0 ? $"; paused: {paused}" : "")}");

        static CatalogueName[] Names(string name) => name.Length == 0 ? [] : [CatalogueName.Parse(name)];
    }

    [Fact]
    public void An_app_of_a_catalogue_that_is_not_here_any_more_stays()
    {
        var machine = FixedOffers.Machine("gone 1.0 loft");
        DueEntry.Compare(machine.Apps.Single(), Offers, machine).State.ShouldBe(DueState.Dropped);
        Show(new Planner(machine, Offers).Upgrade(["gone"])).ShouldBe(["cannot : the catalogue loft is not here any more"]);
    }

    [Theory]
    [InlineData("gone", "keep 1.0: loft is not it")]
    [InlineData("gone@1.x", "remember 1.0: now follows @1.x; loft is not it")]
    [InlineData("loft:gone", "keep 1.0: loft is not it")]
    [InlineData("Gone", "keep 1.0: loft is not it")]
    [InlineData("gone@2.x", "gone@2.x is not available; 1.0 is installed")]
    [InlineData("guild:gone", "no app is called \"gone\"")]
    [InlineData("backcloth", "install 4.0.0")]
    public void What_is_there_already_needs_no_catalogue(string reference, string expected)
    {
        expected = expected.Replace("loft is not it", "the catalogue loft is not here any more", StringComparison.Ordinal);
        var planner = new Planner(FixedOffers.Machine("gone 1.0 loft"), Offers);
        Planned(() => planner.Install([AppReference.Parse(reference)])).ShouldBe(expected);
        var equipped = Planned(() => planner.Equip(new Bundle { Apps = [new BundleApp(AppReference.Parse(reference), null)] }));
        if (expected.Contains(": ", StringComparison.Ordinal) || reference == "backcloth") equipped.ShouldBe(expected);
        else equipped.ShouldStartWith($"cannot : {expected} (");

        static string Planned(Func<Plan> plan)
        {
            try
            {
                return Show(plan())[0];
            }
            catch (ProblemException refused)
            {
                return refused.Problem.What;
            }
        }
    }

    private static string[] Install(string[] installed, params string[] references) =>
        Show(new Planner(FixedOffers.Machine(installed), Offers).Install(references.Select(AppReference.Parse)));

    private static string[] Show(Plan plan) =>
        [.. plan.Items.Select(item =>
            $"{item.Action.ToString().ToLowerInvariant()} "
                + $"{item.To}{(!item.Note.IsEmpty ? $": {item.Note}" : "")}")];
}
