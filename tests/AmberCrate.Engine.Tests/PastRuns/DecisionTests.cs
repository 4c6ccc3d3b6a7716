using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Checking;
using AmberCrate.Engine.Equipping;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.PastRuns;
using AmberCrate.Engine.Reclaiming;
using AmberCrate.Engine.Removing;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Tests.Model;

namespace AmberCrate.Engine.Tests.PastRuns;

/// <summary>What undo, retry, repair and install decide where it is not the usual case.</summary>
public sealed class DecisionTests : IDisposable
{
    private static readonly RunOptions Agreed = new() { IsAgreed = true };
    private static readonly RunSignals Signals = new(default, default);
    private static readonly CatalogueName Guild = CatalogueName.Parse("guild");
    private readonly OperationStage _stage = new();

    [Fact]
    public async Task An_uninstalled_app_comes_back_although_its_catalogue_was_dropped()
    {
        await _stage.AddGuildAsync();
        await InstallAsync("scrim-paint@4.1.x");
        await UninstallAsync("scrim-paint");
        new DropCatalogue(_stage.Session()).Run(Guild);
        var reclaimed = new Reclaim(_stage.Session()).Run(Agreed, default);
        reclaimed.Plan.Items.Where(item => item.Kind == ReclaimKind.Download).ShouldAllBe(item => item.Kept != null);
        var result = await UndoAsync();
        result.Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Done);
        var back = Apps().ShouldHaveSingleItem();
        ($"{back.Catalogue}:{back.Id} {back.Version} @{back.Follows}", back.CatalogueLocation).ShouldBe(
            ("guild:scrim-paint 4.1.2 @4.1.x", _stage["guild"]));
        (await CheckAsync()).ShouldNotContain(finding => finding.Weight == FindingWeight.Broken);
    }

    [Fact]
    public async Task A_paused_catalogue_is_named_as_the_reason_when_the_file_is_gone()
    {
        await _stage.AddGuildAsync();
        await InstallAsync("cue-ledger");
        await UninstallAsync("cue-ledger");
        Directory.Delete(_stage["home", ".cache", "amber-crate", "downloads"], recursive: true);
        new PauseCatalogue(_stage.Session()).Run(Guild, isPaused: true);
        (await UndoAsync()).Plan.Items.ShouldHaveSingleItem().Note.ToString()
            .ShouldBe("1.5.0 is not on this machine any more, and the catalogue guild is paused");
    }

    [Fact]
    public async Task An_edited_old_version_does_not_become_live_again()
    {
        await _stage.AddGuildAsync();
        await InstallAsync("scrim-paint@4.1.x");
        var old = Path.Combine(_stage["root", ".local", "share", "amber-crate", "shelf", "scrim-paint"], "4.1.2+any", "README");
        await InstallAsync("scrim-paint@4.2.x");
        var (was, size) = (File.ReadAllText(old), new FileInfo(old).Length);
        File.WriteAllText(old, new string('x', (int)size));
        var result = await UndoAsync();
        (result.Report!.Items[0].Outcome, result.Plan.Items[0].Restores).ShouldBe((Outcome.Done, null));
        File.ReadAllText(old).ShouldBe(was);
    }

    [Fact]
    public async Task An_install_again_that_changes_what_is_followed_is_what_undo_undoes()
    {
        await _stage.AddGuildAsync();
        await InstallAsync("cue-ledger");
        await InstallAsync("scrim-paint");
        await new Install(_stage.Session()).RunAsync(
            [AppReference.Parse("cue-ledger@1.x")], new InstallRequest { IsAgain = true }, Agreed, Signals);
        Apps()[0].Follows.ShouldBe(VersionSelector.Parse("1.x"));
        await UndoAsync();
        Apps().Select(app => $"{app.Id} @{app.Follows}").ShouldBe(["cue-ledger @", "scrim-paint @"]);

        // Putting on anew what was whole changes nothing that undo could undo.
        await new Install(_stage.Session()).RunAsync(
            [AppReference.Parse("cue-ledger")], new InstallRequest { IsAgain = true }, Agreed, Signals);
        (await UndoAsync()).Plan.Items.Select(item => $"{item.Id} {item.Action} {item.Follows}")
            .ShouldBe(["cue-ledger Remember 1.x"]);
    }

    [Fact]
    public async Task What_was_refused_is_tried_again_and_check_says_the_same_as_retry()
    {
        await _stage.AddGuildAsync();
        Directory.CreateDirectory(_stage["root", ".local", "bin"]);
        File.WriteAllText(_stage["root", ".local", "bin", "cue-ledger"], "mine");
        File.WriteAllText(_stage["b.bundle.toml"],
            "bundle = 1\n[[apps]]\nreference = \"guild:cue-ledger\"\n[[apps]]\nreference = \"guild:scrim-paint\"\n");
        var equipped = await new Equip(_stage.Session()).RunAsync(new EquipRequest(_stage["b.bundle.toml"]), Agreed, Signals);
        string.Join(' ', equipped.Report!.Items.Select(item => item.Outcome)).ShouldBe("Failed Done");
        await UninstallAsync("scrim-paint");
        (await Left()).ShouldBe("run 1 left 1 of its apps undone");
        File.Delete(_stage["root", ".local", "bin", "cue-ledger"]);
        var retried = await new Retry(_stage.Session()).RunAsync(1, Agreed, Signals);
        retried.Report!.Items.Select(item => $"{item.Item.Id} {item.Item.Action} {item.Outcome}")
            .ShouldBe(["cue-ledger Install Done"]);
        (await Left()).ShouldBe("");
        (await new Retry(_stage.Session()).RunAsync(1, Agreed, Signals)).End.ShouldBe(RunEnd.NothingLeft);
    }

    [Fact]
    public async Task A_lost_permission_is_seen_by_every_look_and_healed()
    {
        await _stage.AddGuildAsync();
        await InstallAsync("cue-ledger");
        var program = _stage["root", ".local", "share", "amber-crate", "shelf", "cue-ledger", "1.5.0+any", "bin", "cue-ledger"];
        File.SetUnixFileMode(program, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        var listed = await new ListApps(_stage.Session()).RunAsync(new ListRequest(), default);
        listed.Entries.ShouldHaveSingleItem().Marks.ShouldContain(AppMark.Damaged);
        (await CheckAsync())[0].What.ShouldBe($"{program} has lost its permission to be executed");
        await new CheckMachine(_stage.Session()).RepairAsync([], false, Agreed, Signals);
        (File.GetUnixFileMode(program) & UnixFileMode.UserExecute).ShouldNotBe(UnixFileMode.None);
        (await CheckAsync()).ShouldNotContain(finding => finding.Weight == FindingWeight.Broken);
    }

    [Fact]
    public async Task What_becomes_older_without_a_wish_is_asked_for_once_more()
    {
        using var stage = new OperationStage(withGuild: false);
        new DiskWorld(stage["guild"]).Show("rt", "2.0");
        await stage.AddGuildAsync();
        Task<RunResult> Carry(string reference, RunOptions options) => new Install(stage.Session()).RunAsync(
            [AppReference.Parse(reference)], new InstallRequest(), options, Signals);
        (await Carry("gamma@..1.2", Agreed)).Report!.Items.Select(item => $"{item.Item.Id} {item.Item.To} {item.Outcome}")
            .ShouldBe(["rt 1.5 Done", "gamma 1.1 Done"]);
        var plan = (await Carry("rt@2.0", new RunOptions { IsDryRun = true })).Plan;
        plan.Items.Select(item => $"{item.Id} {item.Action} {item.To} {item.IsMadeOlder}")
            .ShouldBe(["rt Upgrade 2.0 False", "gamma Downgrade 1.0 True"]);
        var refused = (await Should.ThrowAsync<ProblemException>(() => Carry("rt@2.0", Agreed))).Problem;
        (refused.Code, refused.What, refused.Remedy.ToString()).ShouldBe(
            (ProblemCode.Refused, "gamma would become older", "add --even-older to go ahead with it"));
        (stage.Answer, stage.AnswerToOlder) = (true, false);
        (await Carry("rt@2.0", new RunOptions())).End.ShouldBe(RunEnd.CalledOff);
        stage.AnswerToOlder = true;
        (await Carry("rt@2.0", new RunOptions())).End.ShouldBe(RunEnd.Ran);
        await new Undo(stage.Session()).RunAsync(null, Agreed, Signals);
        (await Carry("rt@2.0", Agreed with { AllowsOlder = true })).End.ShouldBe(RunEnd.Ran);
    }

    public void Dispose() => _stage.Dispose();

    private async Task<string> Left() => string.Join(
        "; ", (await CheckAsync()).Where(finding => finding.Kind == FindingKind.RunLeft).Select(finding => finding.What));

    private async Task<IReadOnlyList<Finding>> CheckAsync() =>
        (await new CheckMachine(_stage.Session()).RunAsync([], isDeep: true, default)).Findings;

    private Task<RunResult> InstallAsync(string reference) => new Install(_stage.Session()).RunAsync(
        [AppReference.Parse(reference)], new InstallRequest(), Agreed, Signals);

    private Task<RunResult> UninstallAsync(string name) =>
        new Uninstall(_stage.Session()).RunAsync([name], new UninstallRequest(), false, Agreed, Signals);

    private Task<RunResult> UndoAsync() => new Undo(_stage.Session()).RunAsync(null, Agreed, Signals);

    private List<InstalledApp> Apps()
    {
        using var station = new RootOpener(_stage.Session()).ToRead();
        return [.. station.Records.Apps()];
    }
}
