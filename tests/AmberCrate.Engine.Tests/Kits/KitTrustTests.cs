using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Tests.Trust;
using AmberCrate.Tests.Kits;

namespace AmberCrate.Engine.Tests.Kits;

/// <summary>An unsigned app in a kit needs --unsigned, and then the plan and the record say so.</summary>
public sealed class KitTrustTests : IAsyncLifetime
{
    private const string Cards = "application/vnd.ambercrate.cards.v1+jsonl",
        Bundle = "application/vnd.ambercrate.bundle.v1+toml";

    private readonly SignedStage _stage = new();

    public async ValueTask InitializeAsync()
    {
        await _stage.PublishAsync();
        await _stage.AddAsync();
        await _stage.MakeKitAsync("a.amberkit", "guild:cue-ledger", "guild:gantry-plot");
    }

    public ValueTask DisposeAsync()
    {
        _stage.Dispose();
        return ValueTask.CompletedTask;
    }

    [Theory]
    [InlineData("root")]
    [InlineData("bare")]
    public async Task A_kit_is_checked_under_the_root_of_the_machine_or_of_its_bundle(string root)
    {
        _stage.Stage.Root = root;
        await _stage.EquipAsync("a.amberkit");
        _stage.Installed().ShouldBe(["cue-ledger 1.5.0 guild", "gantry-plot 2.1.0 guild"]);
    }

    [Theory]
    [InlineData("evil", "neither this machine nor the bundle names a root for it")]
    [InlineData("guild", "it carries no signatures of them")]
    public async Task Cards_under_a_name_for_which_nobody_has_signed_are_refused(string name, string why)
    {
        Rename("a.amberkit", "b.amberkit", name);
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.EquipAsync("b.amberkit"));
        (refused.Problem.Code, refused.Problem.What, refused.Problem.Why).ShouldBe(
            (ProblemCode.Refused, $"the kit's apps of {name} cannot be checked", why));
        _stage.Installed().ShouldBeEmpty();

        // With --unsigned they are installed; plan and record say so for each app.
        var result = await _stage.EquipAsync("b.amberkit", allowsUnsigned: true);
        result.Plan.Items.Select(item => $"{item.Id} {item.IsUnsigned} {item.Note}").ShouldBe([
            $"cue-ledger True not signed by {name}", $"gantry-plot True not signed by {name}",
        ]);
        _stage.Installed().ShouldBe([$"cue-ledger 1.5.0 {name} unsigned", $"gantry-plot 2.1.0 {name} unsigned"]);
        _stage.Stage.Notes.ShouldContain($"the kit's apps of {name} were not checked: {why}");
    }

    /// <summary>A bundle in a kit may bring a catalogue with a root of its own; it does not vouch for another name.</summary>
    [Fact]
    public async Task One_signed_catalogue_does_not_vouch_for_another_in_the_same_kit()
    {
        KitForge.Change(_stage["a.amberkit"], _stage["b.amberkit"], (layer, content) =>
        {
            var text = Encoding.UTF8.GetString(content);
            if (Kind(layer) == Bundle)
                return Encoding.UTF8.GetBytes(
                    text.Replace("\"guild:gantry-plot", "\"evil:gantry-plot", StringComparison.Ordinal));
            if (Kind(layer) != Cards) return content;
            var lines = text.Split('\n', StringSplitOptions.RemoveEmptyEntries);
            return Encoding.UTF8.GetBytes(lines.First(line => line.Contains("\"cue-ledger\"", StringComparison.Ordinal)) + "\n");
        }, (layers, read) =>
        {
            var lines = Encoding.UTF8.GetString(read(layers.First(layer => Kind(layer) == Cards)))
                .Split('\n', StringSplitOptions.RemoveEmptyEntries);
            var other = layers.First(layer => Kind(layer) == Cards).DeepClone().AsObject();
            other["annotations"]!["io.ambercrate.catalogue"] = "evil";
            return (other, Encoding.UTF8.GetBytes(
                lines.First(line => line.Contains("\"gantry-plot\"", StringComparison.Ordinal)) + "\n"));
        });
        (await Should.ThrowAsync<ProblemException>(() => _stage.EquipAsync("b.amberkit"))).Problem.What
            .ShouldBe("the kit's apps of evil cannot be checked");
        _stage.Installed().ShouldBeEmpty();
        await _stage.EquipAsync("b.amberkit", allowsUnsigned: true);
        _stage.Installed().ShouldBe(["cue-ledger 1.5.0 guild", "gantry-plot 2.1.0 evil unsigned"]);
    }

    [Fact]
    public async Task A_kit_with_apps_of_another_maintainer_carries_their_signatures()
    {
        await DelegateAsync();
        await _stage.MakeKitAsync("b.amberkit", "guild:glow-lamp", "guild:cue-ledger");
        _stage.Stage.Notes.ShouldNotContain(note => note.Contains("signatures", StringComparison.Ordinal));
        Directory.Move(_stage["site"], _stage["away"]);
        await _stage.EquipAsync("b.amberkit");
        _stage.Installed().ShouldBe(["cue-ledger 1.5.0 guild", "glow-lamp 9.0.0 guild"]);
    }

    [Fact]
    public async Task A_kit_whose_card_of_another_maintainer_was_changed_is_refused()
    {
        await DelegateAsync();
        await _stage.MakeKitAsync("b.amberkit", "guild:glow-lamp");
        KitForge.Change(_stage["b.amberkit"], _stage["c.amberkit"], (layer, content) => Kind(layer) != Cards
            ? content
            : Encoding.UTF8.GetBytes(Encoding.UTF8.GetString(content).Replace(
                "\"summary\":\"", "\"summary\":\"Not ", StringComparison.Ordinal)));
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.EquipAsync("c.amberkit", allowsUnsigned: true));
        refused.Problem.Code.ShouldBe(ProblemCode.NotVerified);
    }

    [Fact]
    public async Task A_kit_that_is_behind_what_the_machine_knows_needs_a_word_of_the_person()
    {
        _stage.Stage.PublishLater();
        await _stage.PublishAsync();
        await _stage.RefreshAsync();
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.EquipAsync("a.amberkit"));
        refused.Problem.Why.ShouldBe("it is behind what this machine knows: version 1 of targets, not 2");
        await _stage.EquipAsync("a.amberkit", allowsUnsigned: true);
        _stage.Installed().ShouldBe(["cue-ledger 1.5.0 guild unsigned", "gantry-plot 2.1.0 guild unsigned"]);
    }

    [Fact]
    public async Task The_same_state_signed_again_does_not_put_a_kit_behind()
    {
        _stage.Ahead = TimeSpan.FromDays(10);
        _stage.Renew().Published.ShouldBe(["snapshot", "timestamp"]);
        await _stage.RefreshAsync();
        await _stage.EquipAsync("a.amberkit");
        _stage.Installed().Count.ShouldBe(2);
    }

    [Theory]
    [InlineData("targets")]
    [InlineData("online")]
    public async Task A_key_that_was_withdrawn_signs_no_kit_however_old_it_says_it_is(string key)
    {
        _stage.ChangeKeys().Rotate(key, null);
        await _stage.RefreshAsync();
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.EquipAsync("a.amberkit"));
        refused.Problem.Code.ShouldBe(ProblemCode.Refused);
        refused.Problem.Why.ShouldStartWith("it was made before the keys of guild were replaced (signatures of the ");
    }

    [Fact]
    public async Task The_day_in_a_kit_does_not_keep_expired_signatures_good()
    {
        _stage.Ahead = TimeSpan.FromDays(200);
        var refused = await Should.ThrowAsync<ProblemException>(() => _stage.EquipAsync("a.amberkit"));
        refused.Problem.Why.ShouldStartWith("its signatures have expired: it was good until ");
        await _stage.EquipAsync("a.amberkit", allowsUnsigned: true);
    }

    /// <summary>The bundle and the cards with another name for the catalogue, and nothing else.</summary>
    private void Rename(string from, string to, string name) => KitForge.Change(_stage[from], _stage[to], (layer, content) =>
    {
        if (Kind(layer) == Cards) layer["annotations"]!["io.ambercrate.catalogue"] = name;
        if (Kind(layer) == "application/vnd.ambercrate.trust.v1") return null;
        return Kind(layer) != Bundle ? content : Encoding.UTF8.GetBytes(Regex.Replace(
            Encoding.UTF8.GetString(content), @"(?m)^\[\[catalogues\]\]\n(?:[a-z_0-9]+ = .*\n)*", "",
            RegexOptions.ExplicitCapture, TimeSpan.FromSeconds(1)).Replace("\"guild:", $"\"{name}:", StringComparison.Ordinal));
    });

    private static string Kind(JsonObject layer) => layer["mediaType"]!.GetValue<string>();

    private async Task DelegateAsync()
    {
        _stage.MakeKeys("second");
        _stage.ChangeKeys().Delegate("lighting", _stage["second", "targets.public.pem"], ["glow-*"]);
        Directory.CreateDirectory(_stage["theirs"]);
        await File.WriteAllTextAsync(
            _stage["theirs", "glow-lamp.appcard.toml"],
            (await File.ReadAllTextAsync(_stage["guild", "cue-ledger.appcard.toml"]))
                .Replace("id = \"cue-ledger\"", "id = \"glow-lamp\"", StringComparison.Ordinal)
                .Replace("\"cue-ledger\"", "\"glow-lamp\"", StringComparison.Ordinal)
                .Replace("version = \"1.5.0\"", "version = \"9.0.0\"", StringComparison.Ordinal));
        await _stage.PublishAsync("theirs", "second", "lighting");
        _stage.Renew();
        (await _stage.RefreshAsync()).Problem.ShouldBeNull();
    }
}
