using AmberCrate.Core.Planning;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Checking;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.PastRuns;
using AmberCrate.Engine.Reclaiming;
using AmberCrate.Engine.Removing;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Tests.Records;

/// <summary>Records that are partly unreadable, that cannot be closed, or that have become many.</summary>
public sealed class RecordsInTroubleTests : IDisposable
{
    private static readonly RunOptions Agreed = new() { IsAgreed = true };

    private readonly OperationStage _stage = new();

    public void Dispose() => _stage.Dispose();

    private string Records => _stage["root", ".local", "state", "amber-crate", "records.db"];

    [Fact]
    public async Task The_unreadable_record_of_one_app_stops_no_command_about_others()
    {
        await _stage.AddGuildAsync();
        await InstallAsync("cue-ledger");
        await InstallAsync("gantry-plot");
        Spoil("cue-ledger");
        foreach (var note in Directory.GetFiles(_stage["root"], "*.installed.json", SearchOption.AllDirectories)
            .Where(note => note.Contains("cue-ledger", StringComparison.Ordinal))) File.Delete(note);
        (await InstallAsync("scrim-paint")).Report!.Failures.ShouldBeEmpty();
        _stage.Notes.ShouldContain(note => note.StartsWith(
            "the record of cue-ledger cannot be read, and the app is left out: ", StringComparison.Ordinal));
        var list = await new ListApps(_stage.Session()).RunAsync(new ListRequest(), default);
        list.Entries.Select(entry => entry.Entry.App.Id.Text).ShouldBe(["gantry-plot", "scrim-paint"]);
        (await new CheckMachine(_stage.Session()).RunAsync([], false, default)).Findings
            .ShouldContain(finding => finding.Kind == FindingKind.RecordUnreadable);
        new Reclaim(_stage.Session()).Run(Agreed, default).Failed.ShouldBeEmpty();
        await new Uninstall(_stage.Session()).RunAsync(["gantry-plot"], new UninstallRequest(), false, Agreed, default);

        // What the remedy says works.
        (await InstallAsync("cue-ledger")).Report!.Failures.ShouldBeEmpty();
        (await new CheckMachine(_stage.Session()).RunAsync([], false, default)).Findings
            .ShouldNotContain(finding => finding.Weight == FindingWeight.Broken);
    }

    /// <summary>If the note beside the app can be read, the record is made anew from it.</summary>
    [Fact]
    public async Task An_unreadable_record_is_made_anew_from_the_note()
    {
        await _stage.AddGuildAsync();
        await InstallAsync("cue-ledger");
        Spoil("cue-ledger");
        (await InstallAsync("gantry-plot")).Report!.Failures.ShouldBeEmpty();
        using var station = new RootOpener(_stage.Session()).ToRead();
        station.Records.Unreadable().ShouldBeEmpty();
        station.Apps.Read().Apps.Count.ShouldBe(2);
    }

    [Fact]
    public async Task A_run_whose_record_cannot_be_closed_says_what_is_done()
    {
        await _stage.AddGuildAsync();
        await InstallAsync("gantry-plot");
        Database? held = null;
        _stage.WhenHappens = happened =>
        {
            if (happened is not RunEvent.ItemEnds) return;
            held = Database.Open(Records);
            held.Run("BEGIN IMMEDIATE");
        };
        var report = (await InstallAsync("cue-ledger")).Report!;
        _stage.WhenHappens = _ => { };
        held!.Dispose();
        report.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Done);
        report.Unclosed.ShouldNotBeNull().What.ShouldBe("run 2 ended as shown above, but its record could not be closed");
        (await new CheckMachine(_stage.Session()).RunAsync([], false, default)).Findings
            .ShouldNotContain(finding => finding.Weight == FindingWeight.Broken);
    }

    [Fact]
    public async Task Records_that_no_undo_can_need_go_with_reclaim_and_runs_says_so()
    {
        var clock = new MovedClock { Ahead = TimeSpan.FromDays(-100) };
        _stage.Clock = clock;
        await _stage.AddGuildAsync();
        for (var time = 0; time < 5; time++)
        {
            await InstallAsync("cue-ledger");
            await new Uninstall(_stage.Session()).RunAsync(["cue-ledger"], new UninstallRequest(), false, Agreed, default);
        }

        new ListRuns(_stage.Session()).Run(isAll: true).First.ShouldBe(1);
        new Reclaim(_stage.Session()).Run(Agreed, default).Plan.Items.ShouldNotContain(item => item.Kind == ReclaimKind.Record);
        clock.Ahead = TimeSpan.Zero;
        await InstallAsync("gantry-plot");
        await new Uninstall(_stage.Session()).RunAsync(["gantry-plot"], new UninstallRequest(), false, Agreed, default);
        var plan = new Reclaim(_stage.Session()).Run(Agreed, default).Plan;
        plan.Items.Single(item => item.Kind == ReclaimKind.Record).Count.ShouldBe(10);
        var runs = new ListRuns(_stage.Session()).Run(isAll: true);
        (runs.First, runs.Count).ShouldBe((11, 2));
        (await new Undo(_stage.Session()).RunAsync(12, Agreed, default)).Report!.Failures.ShouldBeEmpty();
        new ListRuns(_stage.Session()).Run(isAll: true).Runs[0].Number.ShouldBe(13);
    }

    [Fact]
    public void What_a_failing_disk_gives_is_not_taken_for_damage()
    {
        // Its beginning is no memory of this process, so that reading it fails as a broken disk does.
        var fault = DatabaseException.Damaged("/proc/self/mem", new FormatException());
        fault.IsDamage.ShouldBeFalse();
        IoProblems.ToProblem(fault, "it cannot be opened").Why.ShouldBe("the disk fails to read /proc/self/mem");
        DatabaseException.Damaged(_stage["guild", "catalogue.toml"], new FormatException()).IsDamage.ShouldBeTrue();
    }

    [Fact]
    public void Faults_of_several_processors_are_what_they_hold()
    {
        var many = new AggregateException(new AggregateException(new IOException("the disk fails")));
        IoProblems.IsExpected(many).ShouldBeTrue();
        IoProblems.ToProblem(many, "it cannot be read").Why.ShouldBe("the disk fails");
        IoProblems.IsExpected(new AggregateException(new IOException(), new InvalidOperationException())).ShouldBeFalse();
    }

    private void Spoil(string app)
    {
        using var database = Database.Open(Records);
        database.Run("UPDATE apps SET record = $2 WHERE id = $1", app, "{\"id\":\"cue-ledger\",\"version\":7}").ShouldBe(1);
    }

    private Task<RunResult> InstallAsync(string app) =>
        new Install(_stage.Session()).RunAsync([AppReference.Parse(app)], new InstallRequest(), Agreed, default);

    private sealed class MovedClock : TimeProvider
    {
        public TimeSpan Ahead { get; set; }

        public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + Ahead;
    }
}
