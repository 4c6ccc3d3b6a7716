using AmberCrate.Core.Runs;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Checking;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Pinning;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using CsCheck;

namespace AmberCrate.Engine.Tests.Checking;

/// <summary>What check finds is what was done to the machine, no more and no less, and repair puts all of it right.</summary>
public sealed class CheckMachineTests : IDisposable
{
    private static readonly RunOptions Agreed = new() { IsAgreed = true };
    private static readonly string[] Apps = ["cue-ledger", "gantry-plot", "scrim-paint"];
    private readonly OperationStage _stage = new() { Variables = { ["ACRATE_REFRESH_AFTER"] = "never" } };

    /// <summary>What can be done to an app, the finding that it makes, and whether only a deep check sees it.</summary>
    private static readonly (FindingKind Kind, bool IsDeep, Action<CheckMachineTests, string> Do)[] Damages =
    [
        (FindingKind.ShelfMissing, false, (test, app) => File.Delete(test.InShelf(app, "README"))),
        (FindingKind.ShelfMissing, false, (test, app) => File.AppendAllText(test.InShelf(app, "README"), "more\n")),
        (FindingKind.ShelfChanged, true, (test, app) => test.ChangeOneByte(test.InShelf(app, "README"))),
        (FindingKind.PlaceMissing, false, (test, app) => File.Delete(test._stage["root", ".local", "bin", app])),
        (FindingKind.ShelfMissing, false, (test, app) => Directory.Delete(test.InShelf(app, "bin"), recursive: true)),
    ];

    public void Dispose() => _stage.Dispose();

    [Fact]
    public async Task A_machine_as_it_was_made_has_no_findings()
    {
        await InstallAsync(Apps);
        foreach (var isDeep in new[] { false, true }) (await CheckAsync(isDeep)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Whatever_was_done_is_named_and_repaired()
    {
        await InstallAsync(Apps);
        await Gen.Select(Gen.Int[0, Apps.Length - 1], Gen.Int[0, Damages.Length - 1]).List[1, 4].SampleAsync(
            async done =>
            {
                var each = done.DistinctBy(one => one.Item1).Select(one => (App: Apps[one.Item1], Damages[one.Item2])).ToList();
                foreach (var (app, damage) in each) damage.Do(this, app);
                foreach (var isDeep in new[] { false, true })
                {
                    var expected = each.Where(one => isDeep || !one.Item2.IsDeep)
                        .Select(one => $"{one.App}: {one.Item2.Kind}").Order(StringComparer.Ordinal);
                    (await CheckAsync(isDeep)).Where(finding => !finding.Contains("CannotStart", StringComparison.Ordinal))
                        .Distinct().ShouldBe(expected);
                }

                var repaired = await new CheckMachine(_stage.Session()).RepairAsync(
                    [], isDeep: true, Agreed, new RunSignals(default, default));
                repaired.Report!.Items.Where(item => item.Outcome == Outcome.Done).Select(item => item.Item.Id)
                    .Order(StringComparer.Ordinal).ShouldBe(each.Select(one => one.App).Order(StringComparer.Ordinal));
                (await CheckAsync(isDeep: true)).ShouldBeEmpty();
            }, iter: 12, threads: 1);
    }

    [Fact]
    public async Task Only_the_named_apps_are_looked_at()
    {
        await InstallAsync(Apps);
        foreach (var app in Apps) Damages[0].Do(this, app);
        (await CheckAsync(isDeep: false, "gantry-plot")).ShouldBe(["gantry-plot: ShelfMissing"]);
        await new CheckMachine(_stage.Session()).RepairAsync(
            ["gantry-plot"], isDeep: false, Agreed, new RunSignals(default, default));
        (await CheckAsync(isDeep: false)).ShouldBe(["cue-ledger: ShelfMissing", "scrim-paint: ShelfMissing"]);
        var unknown = await Should.ThrowAsync<Core.Problems.ProblemException>(CheckAsync(isDeep: false, "nothing"));
        unknown.Problem.What.ShouldBe("no installed app is called \"nothing\"");
    }

    [Fact]
    public async Task A_repair_that_was_only_shown_or_called_off_changes_nothing()
    {
        await InstallAsync("cue-ledger");
        Damages[0].Do(this, "cue-ledger");
        _stage.Answer = false;
        foreach (var (options, end) in new[]
        {
            (new RunOptions { IsDryRun = true }, RunEnd.PlanOnly), (new RunOptions(), RunEnd.CalledOff),
        })
        {
            (await new CheckMachine(_stage.Session()).RepairAsync([], isDeep: false, options, new RunSignals(default, default)))
                .End.ShouldBe(end);
            (await CheckAsync(isDeep: false)).ShouldBe(["cue-ledger: ShelfMissing"]);
        }
    }

    /// <summary>What is due to time is found on the day it becomes so, and not before.</summary>
    [Theory]
    [InlineData(0, "")]
    [InlineData(1, "")]
    [InlineData(2, "cue-ledger: PinLapsed")]
    public async Task A_pin_is_over_on_the_day_after_its_last(int days, string expected)
    {
        await InstallAsync("cue-ledger");
        new SetPin(_stage.Session()).Set(
            AppReference.Parse("cue-ledger@1.x"), "a test", DateOnly.FromDateTime(DateTime.Now).AddDays(1));
        _stage.Clock = new LaterClock(TimeSpan.FromDays(days));
        string.Join(' ', await CheckAsync(isDeep: false)).ShouldBe(expected);
    }

    private string InShelf(string app, string name) =>
        Path.Combine(Directory.GetDirectories(_stage["root", ".local", "share", "amber-crate", "shelf", app])
            .Single(folder => !Path.GetFileName(folder).StartsWith('.')), name);

    private void ChangeOneByte(string file)
    {
        var bytes = File.ReadAllBytes(file);
        bytes[^2] ^= 1;
        File.WriteAllBytes(file, bytes);
    }

    private async Task<List<string>> CheckAsync(bool isDeep, params string[] names) =>
    [
        .. (await new CheckMachine(_stage.Session()).RunAsync(names, isDeep, default)).Findings
            .Where(finding => finding.App is not null)
            .Select(finding => $"{finding.App}: {finding.Kind}").Order(StringComparer.Ordinal),
    ];

    private async Task InstallAsync(params string[] apps)
    {
        await _stage.AddGuildAsync();
        var result = await new Install(_stage.Session()).RunAsync(
            [.. apps.Select(AppReference.Parse)], new InstallRequest(), Agreed, new RunSignals(default, default));
        result.Report!.Failures.ShouldBeEmpty();
    }

    private sealed class LaterClock(TimeSpan by) : TimeProvider
    {
        public override DateTimeOffset GetUtcNow() => System.GetUtcNow() + by;
    }
}
