using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Tests.Planning;

namespace AmberCrate.Core.Tests.Bundles;

public sealed class BundleTests
{
    private static readonly Bundle Machine = BundleCapturing.Capture(
        [.. FixedOffers.Machine("cue-ledger 1.6.0 guild", "scrim-paint 4.2.2 guild 4.2.x", "odd 1.0 loft").Apps],
        [
            new BundleCatalogue(Core.Values.CatalogueName.Parse("house"), "/srv/house"),
            new BundleCatalogue(Core.Values.CatalogueName.Parse("guild"), "http://guild.example/\"x\""),
        ],
        new BundleCapture("paintframe-01", new DateOnly(2026, 11, 23)),
        BundleVersions.Exact);

    [Fact]
    public void A_written_bundle_is_read_back()
    {
        var read = Read(BundleWriter.Write(Machine));
        (read.Title, read.Captured).ShouldBe((Machine.Title, Machine.Captured));
        read.Catalogues.ShouldBe(Machine.Catalogues);
        read.Apps.Select(app => app with { Line = 0 }).ShouldBe(Machine.Apps);
        read.Apps.Select(app => $"{app.Reference} {app.Version}")
            .ShouldBe(["guild:cue-ledger 1.6.0", "guild:scrim-paint@4.2.x 4.2.2"]);
        read.Catalogues.ShouldHaveSingleItem().Name.Text.ShouldBe("guild", "only catalogues that an app comes from are written");
    }

    [Fact]
    public void Apps_whose_catalogue_is_gone_are_named() => BundleCapturing.Capture(
        [.. FixedOffers.Machine("odd 1.0 loft").Apps], [], new BundleCapture("x", default), BundleVersions.Exact)
        .LeftBehind.ShouldHaveSingleItem().Name.ShouldBe("odd");

    [Fact]
    public void An_update_keeps_comments_and_order()
    {
        const string Before = """
            # For the paint frame. Ask the head painter before changing!
            bundle = 1

            [[apps]]   # the season's cloths
            version = '4.2.1' # mends hessian
            reference = "guild:scrim-paint@4.1.x"

            # without a version on purpose
            [[apps]]
            reference = "house:prompt-margin"

            [[apps]]
            reference = "guild:cue-ledger"
            # trailing remark
            """;
        BundleWriter.Update(Before, Machine).ShouldBe("""
            # For the paint frame. Ask the head painter before changing!
            bundle = 1

            [[apps]]   # the season's cloths
            version = "4.2.2" # mends hessian
            reference = "guild:scrim-paint@4.2.x"

            # without a version on purpose
            [[apps]]
            reference = "house:prompt-margin"

            [[apps]]
            reference = "guild:cue-ledger"
            # trailing remark

            [[catalogues]]
            name = "guild"
            location = "http://guild.example/\"x\""

            """);
    }

    [Fact]
    public void An_update_of_what_is_up_to_date_changes_nothing()
    {
        var text = BundleWriter.Write(Machine);
        BundleWriter.Update(text, Machine).ShouldBe(text);
    }

    [Fact]
    public void All_faults_of_a_bundle_are_found_at_once()
    {
        var faults = new List<FormatFault>();
        BundleReader.Read("""
            bundle = 1
            colour = "amber"
            [[catalogues]]
            name = "Guild"
            [[apps]]
            reference = "scrim-paint@"
            version = "latest"
            [[apps]]
            reference = "a"
            [[apps]]
            reference = "a@1.x"
            """, "x.bundle.toml", faults).ShouldBeNull();
        faults.Select(fault => fault.ToString()).ShouldBe([
            "x.bundle.toml:2: colour: unknown key; known here: apps, builds_on, bundle, captured, catalogues, drops, "
                + "left_behind, sealed, title, when",
            "x.bundle.toml:3: catalogues[1].location: expected a string, but the key is missing",
            "x.bundle.toml:4: catalogues[1].name: expected a catalogue name: lower-case letters, digits and hyphens, beginning "
                + "with a letter, at most 40, found \"Guild\"",
            "x.bundle.toml:5: apps: expected each app once, found \"a\" in line 8 and 10",
            "x.bundle.toml:6: apps[1].reference: expected an exact version (4.2.0), a series (4.2.x), a range (4..5, 4.., ..5) "
                + "or a release line (lts), found \"\", found \"scrim-paint@\"",
            "x.bundle.toml:7: apps[1].version: expected a version that begins with a digit: digits, letters and . - + _ ~ ^, "
                + "at most 64, without '..' or a trailing '.x', found \"latest\"",
        ]);
    }

    private static Bundle Read(string text)
    {
        var faults = new List<FormatFault>();
        var bundle = BundleReader.Read(text, "test", faults);
        faults.ShouldBeEmpty();
        return bundle!;
    }
}
