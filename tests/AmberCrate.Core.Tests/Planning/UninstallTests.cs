using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Planning;

public sealed class UninstallTests
{
    private static readonly FixedOffers Offers = new(("guild", CardSamples.With("a", "1 2026-01-01")));

    [Theory]
    [InlineData("paint", false, false, "paint")]
    [InlineData("paint", false, true, "paint,base,deep")]
    [InlineData("base", false, false, "base!")]
    [InlineData("base", true, false, "paint,base")]
    [InlineData("deep", true, true, "paint,base,deep")]
    [InlineData("paint,base", false, false, "paint,base")]
    [InlineData("safe,paint", false, false, "safe!,paint")]
    [InlineData("floor", true, false, "safe!,floor!")]
    [InlineData("other", false, true, "other,loose")]
    public void What_goes_and_what_stays_is_all_in_the_plan(string names, bool neededBy, bool unneeded, string expected)
    {
        var plan = new Planner(Machine(), Offers).Uninstall(
            names.Split(','), new UninstallRequest { AndNeededBy = neededBy, AndUnneeded = unneeded });
        string.Join(',', plan.Items.Select(item => item.Obstacle is null ? item.Id : $"{item.Id}!"))
            .ShouldBe(unneeded && !expected.Contains("loose", StringComparison.Ordinal) ? $"{expected},loose" : expected);
    }

    [Fact]
    public void A_setting_protects_as_a_card_does()
    {
        var machine = new MachineState(FixedOffers.Here, [FixedOffers.Installed("other 1 guild")])
        {
            Protected = new HashSet<AppId> { AppId.Parse("other") },
        };
        new Planner(machine, Offers).Uninstall(["other"]).Items[0].Obstacle!.Why.ShouldBe("the setting protected names it");
    }

    [Theory]
    [InlineData("", "loose")]
    [InlineData("paint", "base,deep,loose")]
    public void A_dependency_is_needed_as_long_as_a_chosen_app_leads_to_it(string gone, string expected) => string.Join(
        ',', NotNeeded.Find(Machine().Apps, app => gone.Split(',').Contains(app.Id.Text)).Select(id => id.Text).Order())
        .ShouldBe(expected);

    [Theory]
    [InlineData("~/.config/scrim-paint", true)]
    [InlineData("~/.local/share/scrim/x.db", true)]
    [InlineData("~/.cache/scrim", true)]
    [InlineData("~/.config", false)]
    [InlineData("~/.config/", false)]
    [InlineData("~/Documents", false)]
    [InlineData("~/.ssh", false)]
    [InlineData("~/.config/../.ssh", false)]
    [InlineData("~/.config/autostart", false)]
    [InlineData("~/.config/autostart/x.desktop", false)]
    [InlineData("~/.local/share/amber-crate", false)]
    [InlineData("~/.config/systemd/user/x.service", false)]
    [InlineData("/etc/passwd", false)]
    [InlineData("~root/.config/x", false)]
    public void A_card_can_name_settings_of_its_own_only(string path, bool isAccepted) =>
        SettingsPath.TryParse(path, out _).ShouldBe(isAccepted);

    [Theory]
    [InlineData("Scrim Paint 4.2.1\n", "", "4.2.1")]
    [InlineData("scrim v4.2.1-rc1, built 2026", "", "4.2.1-rc1")]
    [InlineData("libgauze 1.0\nversion: 5.0.\n", "version:", "5.0")]
    [InlineData("nonsense", "", null)]
    [InlineData("", "", null)]
    [InlineData("1.0", "version", null)]
    public void A_version_is_found_in_what_an_app_says(string text, string behind, string? version) =>
        new VersionSource { Behind = behind }.FindIn(text)?.Text.ShouldBe(version);

    [Fact]
    public void Ten_megabytes_of_nonsense_are_no_version() =>
        new VersionSource().FindIn(new string('x', 10 << 20)).ShouldBeNull();

    /// <summary>paint needs base, base needs deep, both pulled in; loose was pulled in and nobody needs it; safe is
    /// protected.</summary>
    private static MachineState Machine() => new(FixedOffers.Here,
    [
        App("paint", false, "base"), App("base", true, "deep"), App("deep", true), App("loose", true), App("other", false),
        App("safe", false, "floor") with { IsProtected = true }, App("floor", true),
    ]);

    private static InstalledApp App(string id, bool isDependency, params string[] needs) =>
        FixedOffers.Installed($"{id} 1 guild") with
        {
            IsDependency = isDependency,
            Needs = [.. needs.Select(need => new RelatedApp(AppId.Parse(need), null))],
        };
}
