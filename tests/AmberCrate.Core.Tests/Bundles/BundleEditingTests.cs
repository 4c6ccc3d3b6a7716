using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using CsCheck;

namespace AmberCrate.Core.Tests.Bundles;

public sealed class BundleEditingTests
{
    private const string Text = """
        # Ask before changing!
        bundle = 1   # the format
        drops = [
          "old",  # was never used
        ]

        # cloths
        [[apps]]
        reference = "guild:scrim-paint@4.2.x"   # this season
        [apps.pin]
        to = "4.2.x"

        [[apps]]
        reference = "cue-ledger"
        # at the end
        """;

    [Fact]
    public void An_entry_goes_and_its_comments_stay() => BundleEditing.Drop(Text, ["scrim-paint"], []).ShouldBe("""
        # Ask before changing!
        bundle = 1   # the format
        drops = [
          "old",  # was never used
        ]

        # cloths

        [[apps]]
        reference = "cue-ledger"
        # at the end
        """);

    [Theory]
    [InlineData("bundle = 1\n", "bundle = 1\ndrops = [\"new\"]\n")]
    [InlineData("bundle = 1\ndrops = [\"old\"] # why\n[[apps]]\nreference = \"a\"\n",
        "bundle = 1\ndrops = [\"old\", \"new\"]\n[[apps]]\nreference = \"a\"\n")]
    [InlineData("bundle = 1\ndrops = [\"new\"]\n", "bundle = 1\ndrops = [\"new\"]\n")]
    [InlineData("bundle = 1\ndrops = []\ntitle = \"x\"\n", "bundle = 1\ndrops = [\"new\"]\ntitle = \"x\"\n")]
    public void What_a_layer_below_has_is_named(string before, string after) =>
        BundleEditing.Drop(before, [], ["new"]).ShouldBe(after);

    [Fact]
    public void An_entry_on_one_line_with_others_is_left_to_people() =>
        Should.Throw<MalformedException>(() => BundleEditing.Drop(
            "bundle = 1\napps = [ { reference = \"a\" }, { reference = \"b\" } ]\n", ["a"], []))
            .Message.ShouldBe("the entry a in line 2 is not written as [[apps]]");

    [Fact]
    public void What_is_included_stands_behind_and_what_is_there_changes_its_reference_only()
    {
        var after = BundleEditing.Include(
            Text, [App("guild:scrim-paint@4.x"), App("guild:gantry-plot")],
            [new BundleCatalogue(CatalogueName.Parse("guild"), "/guild")]);
        after.ShouldStartWith(Text.Replace("@4.2.x\"   #", "@4.x\"   #", StringComparison.Ordinal));
        after.ShouldEndWith("# at the end\n\n[[catalogues]]\nname = \"guild\"\nlocation = \"/guild\"\n\n[[apps]]\nreference = "
            + "\"guild:gantry-plot\"\n");
    }

    [Fact]
    public void Including_and_dropping_again_leaves_every_other_byte() => Gen.Select(
        Gen.Int[0, 6].HashSet[0, 5], Gen.Int[0, 6].HashSet[1, 4], Gen.Bool).Sample((there, added, hasEnd) =>
    {
        added.ExceptWith(there);
        var text = "# top\nbundle = 1\n" + string.Concat(there.Select(n =>
            $"\n# about {n}\n[[apps]]\nreference = \"app-{n}\" # {n}\nversion = \"1.{n}\"\n"));
        if (!hasEnd) text = text.TrimEnd('\n');
        var included = BundleEditing.Include(text, [.. added.Select(n => App($"app-{n}"))], []);
        Names(included).ShouldBe([.. there, .. added], ignoreOrder: true);
        var dropped = BundleEditing.Drop(included, [.. added.Select(n => $"app-{n}")], []);
        dropped.TrimEnd('\n').ShouldBe(text.TrimEnd('\n'));
    }, iter: 300);

    private static int[] Names(string text)
    {
        var faults = new List<FormatFault>();
        var bundle = BundleReader.Read(text, "x", faults);
        faults.ShouldBeEmpty();
        return [.. bundle!.Apps.Select(app => int.Parse(app.Reference.Name["app-".Length..]))];
    }

    private static BundleApp App(string reference) => new(AppReference.Parse(reference), null);
}
