using AmberCrate.Core.Bundles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using CsCheck;

namespace AmberCrate.Core.Tests.Planning;

public sealed class SealTests
{
    private static readonly string[] Followed = ["", "1.x", "1.5.0", "stable"];

    private const string Other = "ff112233445566778899aabbccddeeff00112233445566778899aabbccddeeff";

    private static readonly AppCard Ledger = CardSamples.With("cue-ledger", "1.6.0 2026-09-01", "1.5.0 2026-05-01");

    private static readonly AppCard Render = CardSamples.With("render", "2.0 2026-09-01") with
    {
        Needs = [new RelatedApp(AppId.Parse("batten"), null)],
    };

    private static readonly FixedOffers Offers =
        new(("guild", Ledger), ("guild", Render), ("guild", CardSamples.With("batten", "1.1 2026-01-02", "1.0 2026-01-01")));

    [Fact]
    public void A_seal_fixes_every_version_and_digest_and_brings_dependencies()
    {
        var bundle = Sealed("render@2.x");
        bundle.Apps.Select(app => $"{app.Reference} {app.Version} {app.IsDependency} {app.Sha256!.Hex == CardSamples.Digest}")
            .ShouldBe(["guild:batten 1.1 True True", "guild:render@2.x 2.0 False True"]);
        bundle.Catalogues.ShouldHaveSingleItem().Cards.ShouldNotBeNull();
        Read(BundleWriter.Write(bundle)).Apps.Count.ShouldBe(2);
    }

    [Theory]
    [InlineData("", CardSamples.Digest, "install 1.5.0")]
    [InlineData("cue-ledger 1.5.0 guild", CardSamples.Digest, "keep 1.5.0: 1.6.0 is available: acrate upgrade cue-ledger")]
    [InlineData("cue-ledger 1.6.0 guild", CardSamples.Digest, "downgrade 1.5.0")]
    [InlineData("", Other, "cannot : cue-ledger 1.5.0 is not available as it was sealed (guild has another file for that "
        + "version now)")]
    [InlineData("cue-ledger 1.5.0 guild", Other, "cannot : cue-ledger 1.5.0 is not available as it was sealed (guild has "
        + "another file for that version now)")]
    [InlineData("cue-ledger 1.5.0 house", CardSamples.Digest, "keep 1.5.0")]
    public void Exactly_the_sealed_file_is_taken(string installed, string digest, string expected) =>
        Shown(new Planner(FixedOffers.Machine(installed.Length == 0 ? [] : [installed]), Offers).Equip(LedgerOf(digest))
            .Items.ShouldHaveSingleItem()).ShouldStartWith(expected);

    [Fact]
    public void A_file_that_was_exchanged_here_is_put_back()
    {
        var here = FixedOffers.Installed("cue-ledger 1.5.0 guild") with { Sha256 = Sha256Digest.Parse(Other) };
        new Planner(new MachineState(FixedOffers.Here, [here]), Offers).Equip(LedgerOf(CardSamples.Digest)).Items
            .ShouldHaveSingleItem().Action.ShouldBe(PlanAction.Replace);
    }

    [Fact]
    public void A_dependency_comes_as_one_and_stays_one()
    {
        var bundle = Sealed("render");
        var plan = new Planner(FixedOffers.Machine(), Offers).Equip(bundle);
        plan.Items.Select(item => $"{item.Id} {item.IsDependency}").ShouldBe(["batten True", "render False"]);
        var there = FixedOffers.Installed("batten 1.1 guild") with { IsDependency = true };
        new Planner(new MachineState(FixedOffers.Here, [there, FixedOffers.Installed("render 2.0 guild")]), Offers)
            .Equip(bundle).Changes.ShouldBeFalse();
    }

    public static TheoryData<string, string, bool, bool> Entries
    {
        get
        {
            var all = new TheoryData<string, string, bool, bool>();
            foreach (var installed in (string[])["", "1.0 dependency", "1.0 chosen", "1.1 dependency", "1.1 chosen"])
                foreach (var states in (string[])["nothing", "version", "selector", "seal"])
                    foreach (var isDependency in (bool[])[false, true])
                        foreach (var upgrades in (bool[])[false, true]) all.Add(installed, states, isDependency, upgrades);
            return all;
        }
    }

    [Theory]
    [MemberData(nameof(Entries))]
    public void An_entry_says_what_is_a_dependency_and_what_the_user_chose_here_stays_chosen(
        string installed, string states, bool isDependency, bool upgrades)
    {
        var entry = new BundleApp(
            AppReference.Parse(states == "selector" ? "batten@1.x" : "batten"),
            states is "version" or "seal" ? AppVersion.Parse("1.1") : null)
        {
            IsDependency = isDependency, Sha256 = states == "seal" ? Sha256Digest.Parse(CardSamples.Digest) : null,
        };
        MachineState machine = new(FixedOffers.Here, installed.Length == 0 ? [] : [
            FixedOffers.Installed($"batten {installed[..3]} guild") with
            {
                IsDependency = installed.EndsWith("dependency", StringComparison.Ordinal),
            },
        ]);
        var plan = new Planner(machine, Offers).Equip(new Bundle { Apps = [entry] }, uninstallsOthers: false, upgrades);
        var item = plan.Items.ShouldHaveSingleItem();
        (item.Changes ? item.IsDependency : item.Installed!.IsDependency)
            .ShouldBe(isDependency && !installed.EndsWith("chosen", StringComparison.Ordinal), Shown(item));
    }

    [Theory]
    [InlineData("setup")]
    [InlineData("The Setup")]
    public void Arguments_for_an_installer_reach_it_by_whatever_name_the_bundle_has(string name)
    {
        var card = CardSamples.With("setup", "1.0 2026-01-01") with { Name = "The Setup" };
        card = card with
        {
            Releases = [.. card.Releases.Select(release => release with
            {
                Artifacts = [.. release.Artifacts.Select(artifact => artifact with { Format = ArtifactFormat.Installer })],
            })],
        };
        var bundle = new Bundle
        {
            Apps = [new BundleApp(AppReference.Parse(name), null) { InstallerArguments = ["--quiet"] }],
        };
        new Planner(FixedOffers.Machine(), new FixedOffers(("guild", card))).Equip(bundle).Items.ShouldHaveSingleItem()
            .InstallerArguments.ShouldBe(["--quiet"]);
    }

    [Theory]
    [InlineData("cue-ledger", "uninstall odd|uninstall render|keep cue-ledger")]
    [InlineData("render", "uninstall cue-ledger|uninstall odd|keep render")]
    public void Others_are_uninstalled_where_that_is_asked_for_but_not_what_is_needed(string kept, string expected)
    {
        var render = FixedOffers.Installed("render 2.0 guild") with { Needs = [new RelatedApp(AppId.Parse("batten"), null)] };
        var batten = FixedOffers.Installed("batten 1.1 guild") with { IsDependency = kept == "cue-ledger" };
        var machine = new MachineState(FixedOffers.Here, [
            FixedOffers.Installed("cue-ledger 1.6.0 guild"), render, batten, FixedOffers.Installed("odd 1 loft"),
        ]);
        var bundle = new Bundle { Apps = [new BundleApp(AppReference.Parse(kept), null)] };
        new Planner(machine, Offers).Equip(bundle).Items.ShouldHaveSingleItem().Action.ShouldBe(PlanAction.Keep);
        var plan = new Planner(machine, Offers).Equip(bundle, uninstallsOthers: true);
        string.Join('|', plan.Items.Where(item => item.Id != "batten")
            .Select(item => $"{ActionWords.Actions.WordOf(item.Action)} {item.Id}")).ShouldBe(expected);
        plan.Items.ShouldNotContain(item => item.Id == "batten" && item.Action == PlanAction.Remove);
    }

    [Fact]
    public void What_a_machine_is_written_down_as_equips_a_bare_one_the_same() => Gen.Select(
        Gen.Bool, Gen.Bool, Gen.Int[0, 3].Select(at => Followed[at])).Sample((hasLedger, hasRender, follows) =>
    {
        var apps = new List<InstalledApp>();
        if (hasLedger)
            apps.Add(FixedOffers.Installed($"cue-ledger {(follows == "1.5.0" ? "1.5.0" : "1.6.0")} guild {follows}".TrimEnd()));
        if (hasRender) apps.Add(FixedOffers.Installed("render 2.0 guild"));
        var before = Captured(apps);
        var plan = new Planner(FixedOffers.Machine(), Offers).Equip(Read(before));
        var after = plan.Items.Select(item => FixedOffers.Installed($"{item.Id} {item.To} guild {item.Follows}".TrimEnd()) with
        {
            IsDependency = item.IsDependency,
        });
        Captured([.. after.OrderBy(app => app.Id.Text, StringComparer.Ordinal)]).ShouldBe(before);
    });

    private static string Captured(IReadOnlyCollection<InstalledApp> apps) => BundleWriter.Write(BundleCapturing.Capture(
        apps, [new BundleCatalogue(CatalogueName.Parse("guild"), "/guild")], new BundleCapture("m", new DateOnly(2026, 11, 26)),
        BundleVersions.Exact));

    private static Bundle LedgerOf(string digest) => new()
    {
        Apps =
        [
            new BundleApp(AppReference.Parse("cue-ledger"), AppVersion.Parse("1.5.0")) { Sha256 = Sha256Digest.Parse(digest) },
        ],
    };

    private static Bundle Sealed(string reference)
    {
        var bundle = new Bundle
        {
            Catalogues = [new BundleCatalogue(CatalogueName.Parse("guild"), "/guild")],
            Apps = [new BundleApp(AppReference.Parse(reference), null)],
        };
        return BundleSeal.Seal(
            bundle, new Planner(FixedOffers.Machine(), Offers).Equip(bundle), new DateOnly(2026, 11, 26), _ => null);
    }

    private static Bundle Read(string text)
    {
        var faults = new List<Core.Problems.FormatFault>();
        var bundle = BundleReader.Read(text, "x", faults);
        faults.ShouldBeEmpty();
        return bundle!;
    }

    private static string Shown(PlanItem item) =>
        $"{ActionWords.Actions.WordOf(item.Action)} {item.To}{(item.Note.IsEmpty ? "" : $": {item.Note}")}";
}
