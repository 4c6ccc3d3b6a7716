using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Tests.Planning;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Bundles;

public sealed class BundleFlatteningTests
{
    private static readonly BundleLayer Standard = Layer("standard", """
        [[catalogues]]
        name = "guild"
        location = "/guild"
        [[apps]]
        reference = "guild:cue-ledger"
        version = "1.5.0"
        [[apps]]
        reference = "gantry-plot"
        [[apps]]
        reference = "thundersheet"
        when = { hosts = ["booth-*"] }
        """);

    [Fact]
    public void A_later_layer_changes_drops_and_adds_at_its_place()
    {
        var flat = Flatten(Layer("frame", """
            drops = ["gantry-plot"]
            [[apps]]
            reference = "scrim-paint@4.2.x"
            [[apps]]
            reference = "cue-ledger@1.x"
            """, Standard));
        flat.Bundle.Apps.Select(app => $"{app.Reference} {app.Version}").ShouldBe(["cue-ledger@1.x ", "scrim-paint@4.2.x "]);
        flat.Bundle.Catalogues.ShouldHaveSingleItem().Location.ShouldBe("/guild");
        flat.Entries.Select(entry => $"{entry.App.Reference} {entry.Place} {entry.LeftOut}").ShouldBe([
            "cue-ledger@1.x frame:5 ", "scrim-paint@4.2.x frame:3 ", "thundersheet standard:10 it is for booth-*",
            "gantry-plot standard:8 dropped by frame:2", "guild:cue-ledger standard:5 changed by frame:5",
        ]);
    }

    [Theory]
    [InlineData("cue-ledger", "gantry-plot", "")]
    [InlineData("guild:cue-ledger", "gantry-plot", "")]
    [InlineData("house:cue-ledger", "cue-ledger gantry-plot", "top:2 drops house:cue-ledger, which no bundle below it lists")]
    [InlineData("gantry-plto", "cue-ledger gantry-plot", "top:2 drops gantry-plto, which no bundle below it lists")]
    [InlineData("thundersheet", "cue-ledger gantry-plot", "")]
    public void A_drop_may_name_the_catalogue_and_is_reported_if_it_matches_nothing(string drop, string left, string unmatched)
    {
        var flat = Flatten(Layer("top", $"drops = [\"{drop}\"]", Standard), "frame-01");
        string.Join(' ', flat.Bundle.Apps.Select(app => app.Reference.Name)).ShouldBe(left);
        string.Join("; ", flat.Unmatched).ShouldBe(unmatched);
    }

    [Theory]
    [InlineData("booth-02", "cue-ledger gantry-plot thundersheet")]
    [InlineData("frame-01", "cue-ledger gantry-plot")]
    public void An_entry_is_for_some_machines_only(string host, string apps) =>
        string.Join(' ', Flatten(Standard, host).Bundle.Apps.Select(app => app.Reference.Name)).ShouldBe(apps);

    [Fact]
    public void A_layer_that_is_for_others_counts_for_nothing_with_all_that_it_builds_on()
    {
        var ring = Layer("ring", """when = { hosts = ["ring-*"] }""", Standard);
        Flatten(ring).ShouldSatisfyAllConditions(
            flat => flat.IsForOthers.ShouldBeTrue(), flat => flat.Bundle.Apps.ShouldBeEmpty());
        var top = Layer("top", "[[apps]]\nreference = \"cue-ledger\"", ring);
        Flatten(top).IsForOthers.ShouldBeFalse();
        Flatten(top).Bundle.Apps.ShouldHaveSingleItem();
    }

    [Theory]
    [InlineData("", "standard:5: apps: guild:cue-ledger 1.5.0, but other:4 has guild:cue-ledger 1.6.0; list or drop cue-ledger "
        + "in top to decide")]
    [InlineData("drops = [\"cue-ledger\"]", null)]
    [InlineData("[[apps]]\nreference = \"cue-ledger\"", null)]
    public void Layers_of_which_neither_builds_on_the_other_must_agree(string own, string? fault)
    {
        var other = Layer("other", """
            [[apps]]
            reference = "gantry-plot"
            [[apps]]
            reference = "guild:cue-ledger"
            version = "1.6.0"
            """);
        var faults = new List<FormatFault>();
        var flat = new BundleFlattening("x", FixedOffers.Here).Flatten(Layer("top", own, Standard, other), faults);
        faults.Select(one => one.ToString()).ShouldBe(fault is null ? [] : [fault]);
        (flat is null).ShouldBe(fault is not null);
    }

    [Fact]
    public void Catalogues_must_agree_too()
    {
        var other = Layer("other", "[[catalogues]]\nname = \"guild\"\nlocation = \"/elsewhere\"");
        var faults = new List<FormatFault>();
        new BundleFlattening("x", FixedOffers.Here).Flatten(Layer("top", "", Standard, other), faults).ShouldBeNull();
        faults.ShouldHaveSingleItem().Message.ShouldStartWith("guild is at /guild, but other has it at /elsewhere");
    }

    [Fact]
    public void A_layer_that_two_build_on_counts_once()
    {
        var (left, right) = (Layer("left", "", Standard), Layer("right", "drops = [\"gantry-plot\"]", Standard));
        Flatten(Layer("top", "drops = [\"nothing\"]", left, left)).Bundle.Apps.Count.ShouldBe(2);
        Flatten(Layer("top", "", left, right)).Bundle.Apps.Count.ShouldBe(2, "what one of two leaves out, the other brings");
    }

    private static FlatBundle Flatten(BundleLayer top, string host = "frame-01")
    {
        var faults = new List<FormatFault>();
        var flat = new BundleFlattening(host, FixedOffers.Here).Flatten(top, faults);
        faults.ShouldBeEmpty();
        return flat!;
    }

    private static BundleLayer Layer(string name, string text, params BundleLayer[] bases)
    {
        var faults = new List<FormatFault>();
        var bundle = BundleReader.Read("bundle = 1\n" + text, name, faults);
        faults.ShouldBeEmpty();
        return new BundleLayer(name, bundle!, bases)
        {
            Sha256 = Sha256Digest.FromBytes(new byte[32]),
        };
    }
}
