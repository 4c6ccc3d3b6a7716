using System.Security.Cryptography;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.BundleFiles;
using AmberCrate.Engine.Bundling;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Equipping;
using AmberCrate.Engine.Exporting;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Sessions;
using CsCheck;

namespace AmberCrate.Engine.Tests.Bundles;

public sealed class BundleLoadingTests : IDisposable
{
    private readonly OperationStage _stage = new();

    [Fact]
    public async Task Layers_in_a_circle_are_told_with_every_place()
    {
        Write("a", "builds_on = [\"b.bundle.toml\"]");
        Write("b", "\nbuilds_on = [\"c.bundle.toml\"]");
        Write("c", "builds_on = [\"b.bundle.toml\"]");
        var problem = await ProblemAsync("a.bundle.toml");
        problem.What.ShouldBe("b.bundle.toml builds on itself");
        problem.Details.Select(detail => detail.ToString()).ShouldBe([
            "b.bundle.toml:3 builds on c.bundle.toml", "c.bundle.toml:2 builds on b.bundle.toml",
        ]);
    }

    [Theory]
    [InlineData(BundleLoading.MostDeep, true)]
    [InlineData(BundleLoading.MostDeep + 1, false)]
    [InlineData(100, false)]
    public async Task Layers_stand_on_one_another_up_to_a_limit(int deep, bool isAccepted)
    {
        for (var at = 0; at < deep; at++) Write($"l{at}", $"builds_on = [\"l{at + 1}.bundle.toml\"]");
        Write($"l{deep}", "");
        if (isAccepted) (await ViewAsync("l0.bundle.toml")).Flat.Bundle.Apps.ShouldBeEmpty();
        else (await ProblemAsync("l0.bundle.toml")).What.ShouldBe("l0.bundle.toml builds on more than 50 layers");
    }

    [Theory]
    [InlineData("builds_on = [\"gone.bundle.toml\"]", "a.bundle.toml:2 builds on gone.bundle.toml, which cannot be read")]
    [InlineData("builds_on = [\"odd.bundle.toml\"]", "odd.bundle.toml has 1 fault")]
    [InlineData("builds_on = [\"loft:frame\"]", "a.bundle.toml:2 builds on loft:frame, which cannot be read")]
    [InlineData("builds_on = [\"guild:frame\"]", "a.bundle.toml:2 builds on guild:frame, which cannot be read")]
    public async Task A_layer_that_is_not_there_or_has_faults_is_named(string text, string says)
    {
        await _stage.AddGuildAsync();
        Write("a", text);
        Write("odd", "colour = 1");
        (await ProblemAsync("a.bundle.toml")).What.ShouldBe(says);
    }

    [Fact]
    public async Task A_catalogue_carries_bundles_and_its_own_apps_need_no_name()
    {
        Directory.CreateDirectory(_stage["guild", "bundles"]);
        await File.WriteAllTextAsync(
            _stage["guild", "bundles", "standard.bundle.toml"], "bundle = 1\n[[apps]]\nreference = \"cue-ledger\"\n");
        await File.WriteAllTextAsync(
            _stage["guild", "bundles", "frame.bundle.toml"],
            "bundle = 1\ntitle = \"Paint frame\"\nbuilds_on = [\"standard.bundle.toml\"]\n"
                + "[[apps]]\nreference = \"scrim-paint\"\n");
        await _stage.AddGuildAsync();
        var opened = await ViewAsync("guild:frame");
        opened.Flat.Entries.Select(entry => $"{entry.App.Reference} {entry.Place}").ShouldBe([
            "guild:cue-ledger guild:standard:2", "guild:scrim-paint guild:frame:4",
        ]);
        (await new LookAtBundle(_stage.Session()).SearchAsync(["PAINT"], default)).Select(one => one.Name)
            .ShouldBe(["guild:frame"]);
        Write("own", "builds_on = [\"guild:frame\"]\ndrops = [\"cue-ledger\"]");
        (await ViewAsync("own.bundle.toml")).Flat.Bundle.Apps.ShouldHaveSingleItem();
    }

    [Fact]
    public async Task A_plan_names_its_bundle_and_a_refresh_does_not_miss_a_changed_one()
    {
        Directory.CreateDirectory(_stage["guild", "bundles"]);
        string[] paths = [_stage["guild", "bundles", "standard.bundle.toml"], _stage["guild", "bundles", "frame.bundle.toml"]];
        File.WriteAllText(paths[0], "bundle = 1\n[[apps]]\nreference = \"cue-ledger\"\n");
        File.WriteAllText(paths[1], "bundle = 1\nbuilds_on = [\"standard.bundle.toml\"]\n");
        await _stage.AddGuildAsync();
        var plan = (await new Equip(_stage.Session()).RunAsync(
            new EquipRequest("guild:frame"), new RunOptions { IsDryRun = true }, default)).Plan;
        plan.Solved.Bundle!.Name.ShouldBe("guild:frame");
        (plan.Solved.Bundle.Refreshed is null, plan.Solved.Bundle.Age).ShouldBe((false, "just now"));
        $"{plan.Solved.Bundle.Sha256} {string.Join(' ', plan.Solved.Bundle.Layers)}".ShouldBe(
            $"{Digest(paths[1])} (guild:standard, {Digest(paths[0])})");

        async Task<(bool, int, int)> RefreshAsync()
        {
            var result = (await new RefreshCatalogues(_stage.Session()).RunAsync([], default)).ShouldHaveSingleItem();
            return (result.Changed, result.BundlesRead, result.BundlesGone);
        }

        (await RefreshAsync()).ShouldBe((false, 0, 0));
        File.AppendAllText(paths[0], "[[apps]]\nreference = \"scrim-paint\"\n");
        (await RefreshAsync()).ShouldBe((true, 1, 1));
        File.Delete(paths[1]);
        (await RefreshAsync()).ShouldBe((true, 0, 1));
        (await RefreshAsync()).ShouldBe((false, 0, 0));

        static string Digest(string path) => Convert.ToHexStringLower(SHA256.HashData(File.ReadAllBytes(path)));
    }

    [Theory]
    [InlineData("[[apps]]\nreference = \"lamp-black\"", "bundles/x.bundle.toml:2: apps: lamp-black cannot be installed")]
    [InlineData("[[apps]]\nreference = \"cue-ledger@9.x\"", "bundles/x.bundle.toml:2: apps: cue-ledger@9.x cannot be installed")]
    [InlineData("builds_on = [\"gone.bundle.toml\"]", "bundles/x.bundle.toml:2: builds_on: there is no bundle gone.bundle.toml")]
    [InlineData("colour = 1", "bundles/x.bundle.toml:2: colour: unknown key")]
    public async Task A_catalogue_is_not_published_with_a_bundle_that_cannot_be_installed(string text, string says)
    {
        Directory.CreateDirectory(_stage["guild", "bundles"]);
        await File.WriteAllTextAsync(_stage["guild", "bundles", "x.bundle.toml"], "bundle = 1\n" + text);
        var refused = await Should.ThrowAsync<ProblemException>(() =>
            new BuildCatalogue(_stage.Session().Host)
                .RunAsync(new BuildRequest(_stage["guild"], _stage["site"], false, false), default));
        refused.Problem.Details.ShouldHaveSingleItem().ToString().ShouldStartWith(says);
        Directory.Exists(_stage["site"]).ShouldBeFalse();
    }

    [Fact]
    public async Task What_is_exported_after_equipping_is_what_the_machine_was_equipped_from()
    {
        await _stage.AddGuildAsync();
        var all = (await new LookAtBundle(_stage.Session()).SearchAsync([], default)).Count;
        all.ShouldBe(0);
        string[] offered = ["cue-ledger", "gantry-plot", "scrim-paint@4.1.x", "backcloth-render@lts", "dimmer-desk",
            "truss-tally"];
        var (root, count) = (0, 0);
        await Gen.Int[0, offered.Length - 1].HashSet[1, 4].SampleAsync(async picks =>
        {
            _stage.Root = $"root-{Interlocked.Increment(ref root)}";
            await _stage.AddGuildAsync();
            await new Install(_stage.Session()).RunAsync(
                [.. picks.Select(at => AppReference.Parse(offered[at]))], new InstallRequest(), Agreed, default);
            var first = ExportedText();
            File.WriteAllText(_stage["machine.bundle.toml"], first);
            _stage.Root += "-again";
            await new Equip(_stage.Session()).RunAsync(new EquipRequest(_stage["machine.bundle.toml"]), Agreed, default);
            ExportedText().ShouldBe(first);
            count++;
        }, iter: 12, threads: 1);
        count.ShouldBe(12);
    }

    private static RunOptions Agreed => new() { IsAgreed = true, AllowsUnsigned = true };

    public void Dispose() => _stage.Dispose();

    private string ExportedText() => new Export(_stage.Session()).Run(new ExportRequest(null), default).Text!;

    private Task<OpenedBundle> ViewAsync(string named) => new LookAtBundle(_stage.Session()).ViewAsync(named, default);

    private async Task<Problem> ProblemAsync(string named) =>
        (await Should.ThrowAsync<ProblemException>(() => ViewAsync(named))).Problem;

    private void Write(string name, string text) =>
        File.WriteAllText(_stage[$"{name}.bundle.toml"], $"bundle = 1\n{text}\n");
}
