using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Checking;
using AmberCrate.Engine.Equipping;
using AmberCrate.Engine.Exporting;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.PastRuns;
using AmberCrate.Engine.Pinning;
using AmberCrate.Engine.Reclaiming;
using AmberCrate.Engine.Removing;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Upgrading;

namespace AmberCrate.Engine.Tests.Model;

/// <summary>
/// A sequence of commands on a real folder. After each it is checked that list, disk, records and export are the same.
/// </summary>
internal sealed class DiskRun : IDisposable
{
    private static readonly string?[] Selectors = [null, null, "1.x", "2..", "1.0", "..2", "1.5"];
    private static readonly RunOptions Agreed = new() { IsAgreed = true };
    private readonly OperationStage _stage = new(withGuild: false) { Variables = { ["ACRATE_REFRESH_AFTER"] = "never" } };
    private readonly DiskWorld _world;
    private readonly List<string> _said = [];
    private readonly HashSet<string> _damaged = new(StringComparer.Ordinal);
    private bool _mayBeBroken;

    public DiskRun() => _world = new DiskWorld(_stage["guild"]);

    public string Words => string.Join('\n', _said) + "\n--- apps\n" + Listed();

    public Task BeginAsync() => _stage.AddGuildAsync();

    /// <summary>Carries one command out.</summary>
    public async Task StepAsync((int Kind, int A, int B, int C) step)
    {
        var (kind, a, b, c) = step;
        await (kind switch
        {
            0 or 1 or 2 => InstallAsync(a, b, isAgain: c % 6 == 0),
            3 or 4 => UpgradeAsync(c % 3 == 0 ? [Id(a)] : []),
            5 => UninstallAsync(Id(a), new UninstallRequest { AndNeededBy = b % 2 == 0, AndUnneeded = b % 3 == 0 }),
            6 or 7 => UndoAsync(),
            8 => GoAsync("retry", options => new Retry(_stage.Session()).RunAsync(null, options, Signals), _ => true),
            9 => ExportAndEquipAsync(),
            10 or 11 => DamageAsync(a, b),
            12 => ReclaimAsync(),
            13 => PauseAsync(),
            14 => PinAsync(a, b),
            _ => PublishAsync(a, c),
        });
        CheckTheSame();
        await CheckFindingsAsync();
    }

    public void Dispose() => _stage.Dispose();

    private static RunSignals Signals => new(default, default);

    private static string Id(int code) => DiskWorld.Ids[code % DiskWorld.Ids.Length];

    private static string Shown(Plan plan) => string.Join(", ", plan.Items.Select(item =>
        $"{item.Id} {ActionWords.Actions.WordOf(item.Action)} {item.From}->{item.To}"
            + (item.Note.IsEmpty ? "" : $" ({item.Note})")));

    private static string Ended(ItemReport item) =>
        $"{item.Outcome}{(item.Problem is { } problem ? $" {problem.What} ({problem.Why})" : "")}";

    private static string Stands(InstalledApp app) =>
        $"{app.Id} {app.Version} @{app.Follows}{(app.IsDependency ? " dependency" : "")}";

    private List<InstalledApp> Apps()
    {
        using var station = new RootOpener(_stage.Session()).ToRead();
        return [.. station.Records.Apps()];
    }

    private string Listed() => string.Join('\n', Apps().Select(Stands));

    /// <summary>Shows a plan first, then carries it out: both are the same, and a refusal changes nothing.</summary>
    private async Task<RunResult?> GoAsync(
        string command, Func<RunOptions, Task<RunResult>> run, Func<PlanItem, bool> mayBecomeOlder)
    {
        var before = Listed();
        try
        {
            var shown = await run(new RunOptions { IsDryRun = true });
            foreach (var item in shown.Plan.Items.Where(item => item.PutsOn && item.Action != PlanAction.Repair))
                _world.IsKnownWithdrawn(item.Id, item.To!.Text).ShouldBeFalse($"{item.Id} {item.To} is withdrawn");
            foreach (var item in shown.Plan.Items.Where(item => item.Action == PlanAction.Downgrade))
                mayBecomeOlder(item).ShouldBeTrue($"{item.Id} becomes older, {item.From} to {item.To}");
            var result = await run(Agreed);
            _said.Add($"{command}: {Shown(result.Plan.Solved)} [{string.Join(' ', result.Report?.Items.Select(Ended) ?? [])}]");
            result.Digest.ShouldBe(shown.Digest, "what was shown is not what was done");
            foreach (var item in result.Report?.Items ?? [])
            {
                if (item.Outcome == Outcome.Done) Apps().Find(app => app.Id.Text == item.Item.Id)?.Version.ShouldBe(item.Item.To);
                if (item is { Outcome: Outcome.Done, Item.Action: PlanAction.Repair or PlanAction.Remove })
                    _damaged.Remove(item.Item.Id);
                if (item.Outcome == Outcome.Done && item.Item.PutsOn) _damaged.Remove(item.Item.Id);
                if (_damaged.Count == 0) item.Outcome.ShouldNotBe(Outcome.Failed, Ended(item));
                if (item.Outcome == Outcome.Failed) _mayBeBroken = true;
            }

            return result;
        }
        catch (ProblemException refused)
        {
            _said.Add($"{command}: refused, {refused.Problem.What} ({refused.Problem.Why})");
            Listed().ShouldBe(before, "a refusal has changed something");
            return null;
        }
    }

    private Task<RunResult?> InstallAsync(int a, int b, bool isAgain)
    {
        var reference = AppReference.Parse(
            Id(a) + (Selectors[b % Selectors.Length] is { } selector ? $"@{selector}" : ""));
        return GoAsync(
            $"install {reference}{(isAgain ? " --again" : "")}",
            options => new Install(_stage.Session()).RunAsync(
                [reference], new InstallRequest { IsAgain = isAgain }, options, Signals),
            item => item.IsMadeOlder || (reference.Name == item.Id
                && reference.Selector?.Accepts(item.Installed!.Version, item.Installed.Line) == false));
    }

    private Task<RunResult?> UninstallAsync(string id, UninstallRequest request) => GoAsync(
        $"uninstall {id} {request}",
        options => new Uninstall(_stage.Session()).RunAsync([id], request, false, options, Signals), _ => false);

    private async Task UpgradeAsync(string[] names)
    {
        Task<RunResult> Run(RunOptions options) =>
            new Upgrade(_stage.Session()).RunAsync(names, new UpgradeRequest(), options, Signals);
        if (await GoAsync($"upgrade {string.Join(' ', names)}", Run, _ => false) is not { Report: { } report }
            || report.Items.Any(item => item.Outcome == Outcome.Failed) || _mayBeBroken) return;
        (await Run(new RunOptions { IsDryRun = true })).Plan.Changes.ShouldBeFalse("the same upgrade again changes something");
    }

    private async Task UndoAsync()
    {
        var before = Listed();
        Task<RunResult> Run(RunOptions options) => new Undo(_stage.Session()).RunAsync(null, options, Signals);
        if (await GoAsync("undo", Run, _ => true) is not { Report: { } report } || report.Items.Any(IsUntouched)) return;
        if (await GoAsync("undo of the undo", Run, _ => true) is { Report: { } again } && !again.Items.Any(IsUntouched))
            Listed().ShouldBe(before, "undo of undo does not bring it back");

        static bool IsUntouched(ItemReport item) => item.Outcome is Outcome.Failed or Outcome.NotOffered;
    }

    /// <summary>A machine that is rebuilt from what this one exports has the same apps.</summary>
    private async Task ExportAndEquipAsync()
    {
        var apps = Apps();
        if (_mayBeBroken || IsPaused() || !apps.TrueForAll(app => _world.IsOffered(app.Id.Text, app.Version.Text))) return;

        // A bundle carries the pins too, and they win over its versions.
        if (IsOutsideItsPin(apps)) return;
        var file = _stage[$"export-{_said.Count}.bundle.toml"];
        new Export(_stage.Session()).Run(new ExportRequest(file) { Versions = Core.Bundles.BundleVersions.Exact }, default);
        _stage.Root = $"other-{_said.Count}";
        try
        {
            var result = await new Equip(_stage.Session()).RunAsync(
                new EquipRequest(file), Agreed with { AllowsUnsigned = true }, Signals);
            _said.Add($"export and equip: {Shown(result.Plan.Solved)}");
            string.Join('\n', Apps().Where(app => !app.IsDependency).Select(Stands))
                .ShouldBe(string.Join('\n', apps.Where(app => !app.IsDependency).Select(Stands)), "export and equip");
        }
        finally
        {
            _stage.Root = "root";
        }
    }

    private bool IsOutsideItsPin(List<InstalledApp> apps)
    {
        using var station = new RootOpener(_stage.Session()).ToRead();
        return station.Records.Pins().Any(pin =>
            apps.Find(app => app.Id == pin.App) is { } app && !pin.Selector.Accepts(app.Version, app.Line));
    }

    private async Task DamageAsync(int a, int b)
    {
        if (Apps() is not { Count: > 0 } apps) return;
        var app = apps[a % apps.Count];
        var folder = _stage["root", ".local", "share", "amber-crate", "shelf", app.Id.Text, app.ShelfName];
        var program = Path.Combine(folder, "bin", app.Id.Text);
        if (_damaged.Contains(app.Id.Text)) return;
        switch (b % 4)
        {
            case 0:
                File.Delete(program);
                break;
            case 1:
                File.SetUnixFileMode(program, UnixFileMode.UserRead | UnixFileMode.UserWrite);
                break;
            case 2:
                File.Delete(_stage["root", ".local", "bin", app.Id.Text]);
                break;
            default:
                File.AppendAllText(Path.Combine(folder, "README"), "more\n");
                break;
        }

        _said.Add($"damage {b % 4} to {app.Id} {app.Version}");
        _damaged.Add(app.Id.Text);
        await CheckFindingsAsync();
        if (b % 8 > 3) return;
        var result = await GoAsync(
            "check --repair", options => new CheckMachine(_stage.Session()).RepairAsync([], false, options, Signals), _ => false);
        foreach (var item in result?.Report?.Items ?? [])
            if (item.Outcome == Outcome.NotOffered) item.Item.Note.IsEmpty.ShouldBeFalse();
    }

    private Task ReclaimAsync()
    {
        new Reclaim(_stage.Session()).Run(Agreed, default);
        _said.Add("reclaim");
        return Task.CompletedTask;
    }

    private bool IsPaused()
    {
        using var station = new RootOpener(_stage.Session()).ToRead();
        return station.Records.Catalogues().All(catalogue => catalogue.IsPaused);
    }

    private async Task PauseAsync()
    {
        var isPaused = IsPaused();
        new PauseCatalogue(_stage.Session()).Run(CatalogueName.Parse("guild"), !isPaused);
        _world.Hide(!isPaused);
        _said.Add(isPaused ? "catalogue resume guild" : "catalogue pause guild");
        if (isPaused) await new RefreshCatalogues(_stage.Session()).RunAsync([], default);
    }

    private Task PinAsync(int a, int b)
    {
        try
        {
            if (b % 2 == 0) new SetPin(_stage.Session()).Lift(Id(a));
            else new SetPin(_stage.Session()).Set(AppReference.Parse($"{Id(a)}@1.x"), null, null);
            _said.Add($"pin {Id(a)} {(b % 2 == 0 ? "--lift" : "@1.x")}");
        }
        catch (ProblemException refused)
        {
            _said.Add($"pin: refused, {refused.Problem.What}");
        }

        return Task.CompletedTask;
    }

    private async Task PublishAsync(int a, int c)
    {
        _said.Add(_world.Change(a, c));
        if (!IsPaused()) await new RefreshCatalogues(_stage.Session()).RunAsync([], default);
    }

    /// <summary>List, disk, records and export are the same.</summary>
    private void CheckTheSame()
    {
        var apps = Apps();
        using var station = new RootOpener(_stage.Session()).ToRead();
        var front = station.Layout.FrontFolder;
        string.Join(' ', NamesIn(front)).ShouldBe(
            string.Join(' ', apps.Select(app => app.Id.Text).Order()), "the disk is not as the records");
        var bin = _stage["root", ".local", "bin"];
        var commands = NamesIn(bin);
        foreach (var app in apps.Where(app => !_damaged.Contains(app.Id.Text)))
        {
            commands.ShouldContain(app.Id.Text);
            File.ReadAllText(Path.Combine(bin, app.Id.Text)).ShouldContain($"echo {app.Id} {app.Version}\n");
        }

        commands.Length.ShouldBeLessThanOrEqualTo(apps.Count);
        var exported = new Export(_stage.Session()).Run(new ExportRequest(null), default).Bundle;
        var pinned = station.Records.Pins().Select(pin => pin.App.Text).ToHashSet(StringComparer.Ordinal);
        string.Join(' ', exported.Apps.Select(app => app.Reference.Name).Order()).ShouldBe(string.Join(
            ' ', apps.Where(app => !app.IsDependency || pinned.Contains(app.Id.Text)).Select(app => app.Id.Text).Order()),
            "the export");
    }

    private static string[] NamesIn(string folder) =>
        Directory.Exists(folder) ? [.. Directory.GetFileSystemEntries(folder).Select(Path.GetFileName).Order()!] : [];

    /// <summary>
    /// Check finds the damage that was made and nothing else, and each command that it advises leads somewhere.
    /// </summary>
    private async Task CheckFindingsAsync()
    {
        var found = await new CheckMachine(_stage.Session()).RunAsync([], isDeep: true, default);
        var broken = found.Findings.Where(one => one.Weight == FindingWeight.Broken).ToList();
        if (!broken.Exists(one => one.Kind == FindingKind.NeedMissing)) _mayBeBroken = false;
        else if (!_mayBeBroken) broken.Select(one => one.What).ShouldBeEmpty();
        string.Join(' ', broken.Where(one => one.Kind != FindingKind.NeedMissing).Select(one => one.App).Distinct().Order())
            .ShouldBe(string.Join(' ', _damaged.Order()), string.Join("; ", broken.Select(one => one.What)));
        foreach (var finding in found.Findings) await LeadsSomewhereAsync(finding);
    }

    private async Task LeadsSomewhereAsync(Finding finding)
    {
        var words = finding.Remedy.ToString().Split(',')[0].Split(' ');
        if (words is not ["acrate", var verb, var name, ..]) return;
        var look = new RunOptions { IsDryRun = true };
        try
        {
            var plan = verb switch
            {
                "install" => (await new Install(_stage.Session()).RunAsync(
                    [AppReference.Parse(name)], new InstallRequest(), look, Signals)).Plan,
                "upgrade" => (await new Upgrade(_stage.Session()).RunAsync([name], new UpgradeRequest(), look, Signals)).Plan,
                "uninstall" => (await new Uninstall(_stage.Session()).RunAsync(
                    [name], new UninstallRequest(), false, look, Signals)).Plan,
                "check" => (await new CheckMachine(_stage.Session()).RepairAsync([name], true, look, Signals)).Plan,
                "retry" => (await new Retry(_stage.Session()).RunAsync(long.Parse(name), look, Signals)).Plan,
                _ => null,
            };
            if (plan is not null && !plan.Items.Any(item => item.Action == PlanAction.Cannot))
                plan.Changes.ShouldBeTrue($"{finding.Remedy} does nothing: {finding.What}");
        }
        catch (ProblemException refused) when (refused.Problem.Code == ProblemCode.Refused || (verb is "install" or "retry"
            && refused.Problem.Code == ProblemCode.NothingMatched))
        {
            // What is not offered cannot be had; that is said.
        }
    }
}
