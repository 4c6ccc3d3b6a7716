using AmberCrate.Core.Bundles;
using AmberCrate.Core.Comparing;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Tests.Planning;

namespace AmberCrate.Core.Tests.Comparing;

public sealed class ComparisonTests
{
    [Theory]
    [InlineData("reference = \"guild:a\"\nversion = \"1.2\"", "a 1.2 guild", "")]
    [InlineData("reference = \"a\"", "a 1.2 guild", "")]
    [InlineData("reference = \"a\"\nversion = \"1.2\"", "a 1.1 guild", "older a: 1.1, not 1.2")]
    [InlineData("reference = \"a\"\nversion = \"1.2\"", "a 1.10 guild", "newer a: 1.10, not 1.2")]
    [InlineData("reference = \"a\"\nversion = \"1.2\"", "b 1 guild", "missing a: 1.2|extra b: 1")]
    [InlineData("reference = \"a@2.x\"", "a 1.2 guild 2.x", "older a: 1.2, which is not @2.x")]
    [InlineData("reference = \"a@1.x\"", "a 1.2 guild", "other-options a: does not follow @1.x")]
    [InlineData("reference = \"a\"", "a 1.2 guild 1.x", "other-options a: follows @1.x")]
    [InlineData("reference = \"house:a\"", "a 1.2 guild", "other-catalogue a: from guild, not house")]
    [InlineData("reference = \"a\"\npin = { to = \"1.2\" }", "a 1.2 guild", "other-pin a: not pinned, not pinned to @1.2")]
    [InlineData("reference = \"a\"\nplatform = \"i386-linux-any\"", "a 1.2 guild",
        "other-options a: for the machine's own platform, not i386-linux-any")]
    [InlineData("reference = \"a\"\ninstaller_arguments = [\"/S\"]", "a 1.2 guild",
        "other-options a: its installer was given \"\", not \"/S\"")]
    [InlineData("reference = \"a\"\nversion = \"1.2\"\n"
        + "sha256 = \"ff112233445566778899aabbccddeeff00112233445566778899aabbccddeeff\"", "a 1.2 guild",
        "other-file a: 1.2 made of another file")]
    public void Every_kind_of_difference_is_told(string entry, string installed, string differences)
    {
        var there = new ComparedSide("m", [ComparedApp.FromInstalled(FixedOffers.Installed(installed), null, null)]);
        Shown(Comparison.Compare(Wanted(entry), there)).ShouldBe(differences);
    }

    [Fact]
    public void Damage_is_told_first_and_a_dependency_that_nobody_chose_is_not_extra()
    {
        var (broken, other) = (FixedOffers.Installed("a 1.1 guild"), FixedOffers.Installed("b 1 guild"));
        var there = new ComparedSide("m", [
            ComparedApp.FromInstalled(broken, null, "its folder is missing"),
                ComparedApp.FromInstalled(other with { IsDependency = true }, null, null),
        ]);
        Shown(Comparison.Compare(Wanted("reference = \"a\"\nversion = \"1.2\""), there))
            .ShouldBe("damaged a: its folder is missing|older a: 1.1, not 1.2");
    }

    [Fact]
    public void The_worst_machine_comes_first_and_what_cannot_be_read_is_named()
    {
        var wanted = Wanted("reference = \"a\"\nversion = \"1.2\"");
        var fleet = ComparedFleet.Compare(wanted, [
            Machine("fine", "a 1.2 guild"), Machine("more", "a 1.2 guild", "b 1 guild", "c 1 guild"),
            Machine("old", "a 1.1 guild"),
            new ComparedSide("odd", []) { Fault = "no bundle" }, Machine("bare"),
        ]);
        fleet.Machines.Select(one => one.There.Name).ShouldBe(["bare", "old", "more", "fine"]);
        (fleet.Drifted, fleet.Unreadable.ShouldHaveSingleItem().Name).ShouldBe((3, "odd"));
        fleet.Apps.ShouldBe([("a", 2), ("b", 1), ("c", 1)]);
    }

    private static ComparedSide Machine(string name, params string[] apps) =>
        new(name, [.. apps.Select(app => ComparedApp.FromInstalled(FixedOffers.Installed(app), null, null))]);

    private static ComparedSide Wanted(string entry)
    {
        var faults = new List<FormatFault>();
        var bundle = BundleReader.Read($"bundle = 1\n[[apps]]\n{entry}\n", "x", faults);
        faults.ShouldBeEmpty();
        return new ComparedSide("x", [.. bundle!.Apps.Select(ComparedApp.FromBundle)]);
    }

    private static string Shown(Comparison comparison) => string.Join(
        '|', comparison.Differences.Select(one => $"{DifferenceWords.Kinds.WordOf(one.Kind)} {one.App}: {one.Words}"));
}
