using AmberCrate.Core.Bundles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Planning;

/// <summary>What apps need and exclude, through the planner.</summary>
public sealed class RequestTests
{
    [Theory]
    [InlineData("paint", "", "base install 1.2 <paint, paint install 1.0")]
    [InlineData("plot", "", "base install 2.0 <plot, plot install 1.0")]
    [InlineData("paint,light", "", "base install 1.2 <light paint, paint install 1.0, light install 1.0")]
    [InlineData("paint", "base 1.1", "paint install 1.0")]
    [InlineData("paint", "base 1.0", "base upgrade 1.2 <paint, paint install 1.0")]
    [InlineData("paint", "base 2.0", "base downgrade! 1.2 <paint, paint install 1.0")]
    [InlineData("paint,base", "base 2.0",
        "base downgrade! 1.2 (not 2.0: paint 1.0 needs base@1.1..2), paint install 1.0")]
    [InlineData("paint,base@1.2", "base 2.0", "base downgrade 1.2, paint install 1.0")]
    [InlineData("gamma", "rt 2.0",
        "gamma install 1.0 (not 1.1: gamma 1.1 needs rt@1..2; rt 2.0 is not replaced by an older version)")]
    [InlineData("rt@2.0", "gamma 1.1 needs:rt@1..2,rt 1.5",
        "rt upgrade 2.0, gamma downgrade! 1.0 (changes so that the other apps fit)")]
    [InlineData("paint,base", "", "base install 1.2 (not 2.0: paint 1.0 needs base@1.1..2), paint install 1.0")]
    [InlineData("base,paint", "", "base install 1.2 (not 2.0: paint 1.0 needs base@1.1..2), paint install 1.0")]
    [InlineData("ring-a", "", "ring-b install 1.0 <ring-a, ring-a install 1.0")]
    [InlineData("studio", "", "base install 1.2 <paint, paint install 1.0 <studio, studio install 1.0")]
    [InlineData("paint,mixer", "",
        "base install 1.2 <mixer paint, paint install 1.0, mixer install 2.0 (not 3.0: paint 1.0 needs base@1.1..2; mixer 3.0 "
            + "needs base@2..)")]
    [InlineData("plot", "mixer 2.0 needs:base@..2,base 1.1",
        "base upgrade 2.0 <mixer plot, plot install 1.0, mixer upgrade 3.0 (changes so that the other apps fit)")]
    [InlineData("light", "mixer 2.0 needs:base@..2,base 1.1", "light install 1.0")]
    [InlineData("tool", "old 1.0 needs:gone", "tool install 1.0")]
    [InlineData("foe@1.0", "paint 0.9 conflicts:foe",
        "base install 1.2 <paint, paint upgrade 1.0 (changes so that the other apps fit), foe install 1.0")]
    public void What_is_needed_comes_along_and_what_need_not_move_stays(string asked, string installed, string expected) =>
        Planned(asked, installed).ShouldBe(expected);

    [Theory]
    [InlineData("plot,paint", "", "plot and paint cannot be there together", "leave out plot or leave out paint",
        "plot 1.0 needs base@2..; paint 1.0 needs base@1.1..2; only one version of base can be there at a time")]
    [InlineData("paint,base@2.0", "", "paint and base cannot be there together",
        "leave out paint, leave out base or ask for base without @2.0", "paint 1.0 needs base@1.1..2; you asked for base@2.0")]
    [InlineData("plot", "base 1.1 @..2", "plot cannot be installed on this machine",
        "let base go from @..2: acrate install base@SELECTOR or uninstall base first",
        "plot 1.0 needs base@2..; base 1.1 follows @..2")]
    [InlineData("plot", "old 1.0 needs:base@..2,base 1.1", "plot cannot be installed on this machine", "uninstall old first",
        "plot 1.0 needs base@2..; old 1.0 (installed) needs base@..2; only one version of base can be there at a time")]
    [InlineData("lost,tool", "", "lost cannot be installed on this machine", "leave out lost",
        "lost 1.0 needs nowhere, and no such release is offered for this machine")]
    [InlineData("foe@2.0,paint", "", "foe and paint cannot be there together",
        "leave out foe, leave out paint or ask for foe without @2.0",
        "you asked for foe@2.0; foe 2.0 cannot be there beside paint; you asked for paint")]
    [InlineData("foe@2.0,studio", "", "foe and studio cannot be there together",
        "leave out foe, leave out studio or ask for foe without @2.0",
        "you asked for foe@2.0; foe 2.0 cannot be there beside paint; studio 1.0 needs paint")]
    [InlineData("foe@2.0", "paint 1.0", "foe cannot be installed on this machine",
        "ask for foe without @2.0 or uninstall paint first", "you asked for foe@2.0; foe 2.0 cannot be there beside paint")]
    public void Where_there_is_no_plan_the_reasons_follow_from_each_other_and_the_ways_out_are_ways_out(
        string asked, string installed, string what, string next, string reasons)
    {
        var problem = Should.Throw<ProblemException>(() => Planned(asked, installed)).Problem;
        (problem.What, problem.Remedy.ToString(), string.Join("; ", problem.Details)).ShouldBe((what, next, reasons));
        problem.Code.ShouldBe(
            asked.StartsWith("lost", StringComparison.Ordinal) ? ProblemCode.NothingMatched : ProblemCode.Refused);
    }

    [Theory]
    [InlineData("base", "base 1.1,old 1.0 needs:base@..2",
        "base Cannot base is needed by other apps and is not uninstalled (old 1.0 needs base@..2)")]
    [InlineData("base,old", "base 1.1,old 1.0 needs:base@..2", "old Remove , base Remove ")]
    [InlineData("base,tool", "base 1.1,old 1.0 needs:base@..2,tool 0.9",
        "base Cannot base is needed by other apps and is not uninstalled (old 1.0 needs base@..2), tool Remove ")]
    public void What_others_need_stays(string names, string installed, string expected)
    {
        string Act() => string.Join(
            ", ",
            new Planner(Machine(installed), Offers).Uninstall(names.Split(',')).Items
                .Select(item => $"{item.Id} {item.Action} {item.Note}"));
        Said(Act).ShouldBe(expected);
    }

    [Theory]
    [InlineData("base 1.1,old 1.0 needs:base@..2,tool 0.9",
        "base Upgrade 1.2 2.0 is newer, but does not fit: old 1.0 (installed) needs base@..2| tool Upgrade 1.0 ")]
    [InlineData("base 1.2,old 1.0 needs:base@..2,tool 0.9",
        "base Keep 1.2 2.0 is newer, but does not fit: old 1.0 (installed) needs base@..2| tool Upgrade 1.0 ")]
    [InlineData("base 1.2 @1.2,plot 0.9,tool 0.9",
        "base Keep 1.2 follows @1.2; 2.0 is newer| plot Keep 0.9 1.0 is newer, but does not fit: plot 1.0 needs base@2..; "
            + "base 1.2 follows @1.2| tool Upgrade 1.0 ")]
    [InlineData("base 1.2,plot 0.9", "base Upgrade 2.0 | plot Upgrade 1.0 ")]
    [InlineData("gamma 1.1 needs:rt@1..2,rt 1.5",
        "rt Keep 1.5 2.0 is newer, but does not fit: gamma 1.1 (installed) needs rt@1..2; gamma 1.1 is "
            + "not replaced by an older version")]
    [InlineData("gamma 1.0 needs:rt,rt 1.5", "rt Keep 1.5 2.0 is newer, but does not fit: gamma 1.1 needs rt@1..2| "
        + "gamma Upgrade 1.1 ")]
    [InlineData("plot 0.9", "base Install 2.0 | plot Upgrade 1.0 ")]
    [InlineData("wanting 0.9", "wanting Keep 0.9 1.0 is newer, but does not fit: wanting 1.0 needs base@9.., and no such release "
        + "is offered for this machine")]
    public void An_upgrade_goes_as_far_as_others_can_follow_and_does_the_rest(string installed, string expected) =>
        Shown(new Planner(Machine(installed), Offers).Upgrade([])).ShouldBe(expected);

    [Theory]
    [InlineData("plot,paint,tool", "",
        "base Install 2.0 | plot Install 1.0 | paint Cannot  plot 1.0 needs base@2..; paint 1.0 needs base@1.1..2| tool "
            + "Install 1.0 ")]
    [InlineData("paint,tool", "base 2.0", "paint Cannot  paint 1.0 needs base@1.1..2; base 2.0 is not replaced by an older "
        + "version| tool Install 1.0 ")]
    [InlineData("base@2..,tool", "base 1.1,old 1.0 needs:base@..2",
        "base Cannot  old 1.0 (installed) needs base@..2| tool Install 1.0 ")]
    [InlineData("base@2..,tool", "old 1.0 needs:base@..2,base 1.1",
        "base Cannot  old 1.0 (installed) needs base@..2| tool Install 1.0 ")]
    [InlineData("rt@2..,gamma", "gamma 1.1 needs:rt@1..2,rt 1.5",
        "rt Cannot  gamma 1.1 (installed) needs rt@1..2; gamma 1.1 is not "
        + "replaced by an older version| gamma Keep 1.1 ")]
    [InlineData("mixer,paint", "",
        "base Install 1.2 | mixer Install 2.0 not 3.0: mixer 3.0 needs base@2..; "
        + "paint 1.0 needs base@1.1..2| paint Install 1.0 ")]
    public void A_bundle_is_had_as_far_as_it_goes_together(string listed, string installed, string expected)
    {
        var bundle = BundleReader.Read(
            "bundle = 1\n" + string.Concat(listed.Split(',').Select(app => $"[[apps]]\nreference = \"{app}\"\n")),
            "b.bundle.toml", []);
        Shown(new Planner(Machine(installed), Offers).Equip(bundle!)).ShouldBe(expected);
    }

    private static readonly FixedOffers Offers = new(
    [
        .. new[]
        {
            Card("base", null, "2.0", "1.2", "1.1", "1.0"), Card("paint", "base@1.1..2", "1.0"), Card("light", "base", "1.0"),
            Card("plot", "base@2..", "1.0"),
            Card("ring-a", "ring-b", "1.0"), Card("ring-b", "ring-a", "1.0"), Card("studio", "paint", "1.0"),
            Card("lost", "nowhere", "1.0"), Card("tool", null, "1.0"), Card("old", "base@..2", "1.0"),
            Card("rt", null, "2.0", "1.5"), Card("wanting", "base@9..", "1.0"),
            WithReleases(
                Card("gamma", null, "1.1", "1.0"),
                release => release with { Needs = [RelatedApp.Parse(release.Version.Text == "1.1" ? "rt@1..2" : "rt")] }),
            WithReleases(
                Card("mixer", null, "3.0", "2.0"),
                release => release with { Needs = [RelatedApp.Parse(release.Version.Text == "3.0" ? "base@2.." : "base@..2")] }),
            WithReleases(
                Card("foe", null, "2.0", "1.0"),
                release => release with { Conflicts = release.Version.Text == "2.0" ? [RelatedApp.Parse("paint")] : [] }),
        }.Select(card => ("guild", card)),
    ]);

    private static AppCard WithReleases(AppCard card, Func<Release, Release> change) =>
        card with { Releases = [.. card.Releases.Select(change)] };

    private static AppCard Card(string id, string? need, params string[] versions) =>
        CardSamples.With(id, [.. versions.Select(version => $"{version} 2026-01-01")]) with
        {
            Needs = need is null ? [] : [RelatedApp.Parse(need)],
        };

    /// <summary>A machine with apps given as "id version [@asked] [needs:need] [conflicts:app]".</summary>
    private static MachineState Machine(string apps) =>
        new(FixedOffers.Here, apps.Split(',', StringSplitOptions.RemoveEmptyEntries).Select(text =>
    {
        var words = text.Split(' ');
        var asked = Array.Find(words, word => word.StartsWith('@'))?[1..];
        return FixedOffers.Installed($"{words[0]} {words[1]} guild{(asked is null ? "" : " " + asked)}") with
        {
            Needs = Related("needs:"),
            Conflicts = Related("conflicts:"),
        };

        RelatedApp[] Related(string key) => [.. words.Where(word => word.StartsWith(key, StringComparison.Ordinal))
            .Select(word => RelatedApp.Parse(word[key.Length..]))];
    }));

    private static string Planned(string asked, string installed) => string.Join(", ", new Planner(Machine(installed), Offers)
        .Install(asked.Split(',').Select(AppReference.Parse)).Items
        .Select(item =>
            $"{item.Id} {item.Action.ToString().ToLowerInvariant()}{(item.IsMadeOlder ? "!" : "")} "
                + $"{item.To}{(item.NeededBy.Count > 0 ? $" <{string.Join(' ', item.NeededBy)}" : "")}"
                + $"{(!item.Note.IsEmpty ? $" ({item.Note})" : "")}"));

    private static string Shown(Plan plan) =>
        string.Join("| ", plan.Items.Select(item => $"{item.Id} {item.Action} {item.To} {item.Note}"));

    private static string Said(Func<string> plan)
    {
        try
        {
            return plan();
        }
        catch (ProblemException refused)
        {
            return "refused: " + string.Join("; ", refused.Problem.Details);
        }
    }
}
