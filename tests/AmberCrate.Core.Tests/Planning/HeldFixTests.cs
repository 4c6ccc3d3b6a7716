using AmberCrate.Core.Bundles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Planning;

/// <summary>Security fixes that an upgrade does not bring, and what equipping does with entries without a version.</summary>
public sealed class HeldFixTests
{
    private static readonly FixedOffers Offers = new(("guild", WithFix(CardSamples.With(
        "scrim-paint", "4.1.0 2026-01-01", "4.1.1 2026-01-15", "4.2.0 2026-02-01", "5.0.0 2026-03-01"), "4.2.0")));

    [Theory]
    [InlineData("scrim-paint 4.1.0 guild", null)]
    [InlineData("scrim-paint 4.1.0 guild 4.x", null)]
    [InlineData("scrim-paint 4.1.0 guild stable", null)]
    [InlineData("scrim-paint 4.1.0 guild 4.1.x", "4.2.0")]
    [InlineData("scrim-paint 4.1.1 guild 4.1.x", "4.2.0")]
    [InlineData("scrim-paint 4.1.0 guild 4.1.0", "4.2.0")]
    [InlineData("scrim-paint 4.2.0 guild 4.2.x", null)]
    [InlineData("scrim-paint 5.0.0 guild", null)]
    public void A_range_holds_a_fix_back_if_no_release_in_it_has_the_fix(string installed, string? held)
    {
        var machine = FixedOffers.Machine(installed);
        var entry = HeldUpgrades.MarkOne(machine.Apps.Single(), Offers, machine);
        entry.HeldFix?.Version.Text.ShouldBe(held);
        (entry.HeldFix is null).ShouldBe(held is null);
        HeldUpgrades.FindHeldFixes(machine, Offers).Select(one => one.HeldFix!.Version.Text).ShouldBe(held is null ? [] : [held]);
        entry.HeldFixWhy.ShouldBe(held is null ? "" : $"follows @{machine.Apps.Single().Follows}");
    }

    [Theory]
    [InlineData("scrim-paint", "scrim-paint 4.1.0 guild", "keep 4.1.0", "upgrade 5.0.0")]
    [InlineData("scrim-paint@4.x", "scrim-paint 4.1.0 guild 4.x", "keep 4.1.0", "upgrade 4.2.0")]
    [InlineData("scrim-paint", "scrim-paint 5.0.0 guild", "keep 5.0.0", "keep 5.0.0")]
    public void Equipping_moves_an_entry_without_a_version_only_if_it_is_asked_to(
        string reference, string installed, string plain, string upgraded)
    {
        var bundle = new Bundle { Apps = [new BundleApp(AppReference.Parse(reference), null)] };
        var planner = new Planner(FixedOffers.Machine(installed), Offers);
        Of(planner.Equip(bundle, uninstallsOthers: false)).ShouldBe(plain);
        Of(planner.Equip(bundle, uninstallsOthers: false, upgrades: true)).ShouldBe(upgraded);
        Of(planner.Equip(bundle, uninstallsOthers: true, upgrades: true)).ShouldBe(upgraded);

        static string Of(Plan plan) => string.Join(
            ", ", plan.Items.Select(item => $"{ActionWords.Actions.WordOf(item.Action)} {item.To ?? item.From}"));
    }

    private static AppCard WithFix(AppCard card, string version) => card with
    {
        Releases = [.. card.Releases.Select(release =>
            release.Version.Text == version ? release with { Urgency = Urgency.Critical } : release)],
    };
}
