using AmberCrate.Core.Bundles;
using AmberCrate.Core.Due;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Schedules;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Due;
using AmberCrate.Engine.Equipping;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Timers;
using AmberCrate.Engine.Trust;
using AmberCrate.Engine.Upgrading;

namespace AmberCrate.Engine.Scheduling;

/// <summary>Does what is on a timer: the timer calls it. It keeps to its window, notes how it ended, and says who is
/// there.</summary>
/// <param name="session">The session.</param>
public sealed class RunScheduled(Session session)
{
    /// <summary>Runs the task, unless its time window is closed.</summary>
    /// <param name="task">The task.</param>
    /// <param name="signals">Stops it.</param>
    /// <exception cref="ProblemException">It is not on a timer, or failed as a whole.</exception>
    public async Task<ScheduledResult> RunAsync(ScheduledTask task, RunSignals signals)
    {
        var file = new ScheduleFile(session.Layout);
        var schedule = file.Read().Select(entry => entry.Schedule).FirstOrDefault(one => one.Task == task)
            ?? throw new Problem(
                ProblemCode.NothingMatched, $"{TaskWords.Tasks.WordOf(task)} is not on a timer",
                remedy: NextCommand.Create("schedule set", TaskWords.Tasks.WordOf(task))).ToException();
        var time = TimeOnly.FromDateTime(session.Host.Clock.GetLocalNow().DateTime);
        if (schedule.Window is { } window && !window.Holds(time))
            return new ScheduledResult($"outside of the maintenance window {window}: nothing was done", null, IsQuiet: true);
        using var end = CancellationTokenSource.CreateLinkedTokenSource(signals.Soon);
        if (schedule.Window is { } limit) end.CancelAfter(limit.LeftAt(time));
        ScheduledResult result;
        try
        {
            result = await RunAsync(schedule, signals with { Soon = end.Token });
        }
        catch (OperationCanceledException) when (end.IsCancellationRequested && !signals.Soon.IsCancellationRequested)
        {
            result = new ScheduledResult("stopped at the end of the maintenance window", null, IsQuiet: false)
            {
                IsFailed = true,
            };
        }
        catch (ProblemException failed)
        {
            Note(file, task, $"failed: {failed.Problem.What}");
            Notify(schedule, $"failed: {failed.Problem.What}");
            throw;
        }

        Note(file, task, result.Summary);
        if (!result.IsQuiet) Notify(schedule, result.Summary);
        return result;
    }

    private Task<ScheduledResult> RunAsync(Schedule schedule, RunSignals signals) => schedule.Task switch
    {
        ScheduledTask.Due => DueAsync(schedule, signals.Soon),
        ScheduledTask.Upgrade => UpgradeAsync(schedule, signals),
        ScheduledTask.Equip => EquipAsync(schedule, signals),
        ScheduledTask.Renew => Task.FromResult(Renewed(schedule)),
        ScheduledTask.Refresh => RefreshAsync(signals.Soon),
    };

    private async Task<ScheduledResult> DueAsync(Schedule schedule, CancellationToken cancel)
    {
        var result = await new ListDue(session).RunAsync([], schedule.Metrics, cancel);
        var due = result.Entries.Where(item => item.Entry.State == DueState.Due).ToList();
        var security = due.Count(item => item.Entry.IsSecurity);
        return new ScheduledResult(
            due.Count == 0 ? "nothing is due"
                : $"{due.Count} due{(security > 0 ? $", {security} with security fixes" : "")}: "
                    + string.Join(", ", due.Select(item => item.Entry.App.Id)),
            null, IsQuiet: due.Count == 0);
    }

    private async Task<ScheduledResult> UpgradeAsync(Schedule schedule, RunSignals signals) => await ToldAsync(
        await new Upgrade(session).RunAsync(
            [], new UpgradeRequest { IsSecurityOnly = schedule.IsSecurityOnly }, OptionsOf(schedule), signals),
        schedule, "nothing to upgrade", signals);

    /// <summary>
    /// Keeps the machine to a bundle. A bundle of a catalogue is read again, however fresh the catalogue's data are:
    /// that is one request where nothing has changed.
    /// </summary>
    private async Task<ScheduledResult> EquipAsync(Schedule schedule, RunSignals signals)
    {
        if (BundlePlace.InCatalogue(schedule.Bundle!) is { } inside)
        {
            var refreshed = await new RefreshCatalogues(session).RunAsync([inside.Catalogue], signals.Soon);
            foreach (var failed in refreshed.Where(result => result.Problem is not null))
                session.Note($"{failed.Catalogue.Name} could not be refreshed; older data are used");
        }

        return await ToldAsync(
            await new Equip(session).RunAsync(
                new EquipRequest(schedule.Bundle)
                {
                    UninstallsOthers = schedule.UninstallsOthers, Upgrades = schedule.Upgrades,
                },
                OptionsOf(schedule), signals),
            schedule, $"matches {schedule.Bundle}", signals);
    }

    private ScheduledResult Renewed(Schedule schedule)
    {
        var passphrase = schedule.PassphraseFile is { } file ? KeyFile.ReadPassphrase(file) : null;
        var done = new RenewCatalogue(session.Host).Run(schedule.Published!, new KeyRing(schedule.Keys!, passphrase));
        var waiting = done.Waiting.Select(role => $"{role.Name} {role.Version} waits for signatures").ToList();
        return done.Published.Count == 0 && waiting.Count == 0
            ? new ScheduledResult("nothing ends soon", null, IsQuiet: true)
            : new ScheduledResult(
                string.Join("; ", waiting.Prepend($"signed {string.Join(", ", done.Published.Distinct())}")), null,
                IsQuiet: waiting.Count == 0);
    }

    private static RunOptions OptionsOf(Schedule schedule) => new()
    {
        IsAgreed = true, Consent = new RunConsent { WaitClosed = TimeSpan.FromMinutes(schedule.WaitMinutes) },
    };

    private async Task<ScheduledResult> ToldAsync(RunResult result, Schedule schedule, string idle, RunSignals signals)
    {
        if (schedule.Metrics is not null) await new ListDue(session).RunAsync([], schedule.Metrics, signals.Now);
        if (result.Report is not { Number: not null } report)
        {
            var failures = result.Report?.Failures.Select(item => item.Item.Id).ToList() ?? [];
            return failures.Count == 0
                ? new ScheduledResult(idle, result.Report, IsQuiet: true)
                : new ScheduledResult($"not offered: {string.Join(", ", failures)}", result.Report, IsQuiet: false);
        }

        var parts = report.Items.Where(item => item.Item.Changes).GroupBy(item => item.Outcome).OrderBy(group => group.Key)
            .Select(group => $"{OutcomeWords.Outcomes.WordOf(group.Key)} {string.Join(", ",
                group.Select(item => $"{item.Item.Id} {item.Item.To ?? item.Item.From}"))}");
        return new ScheduledResult(
            $"run {report.Number}: {string.Join("; ", parts)}{(report.Interrupted ? "; stopped before the rest" : "")}", report,
            IsQuiet: false);
    }

    private async Task<ScheduledResult> RefreshAsync(CancellationToken cancel)
    {
        var results = await new RefreshCatalogues(session).RunAsync([], cancel);
        var failed = results.Where(result => result.Problem is not null).ToList();
        return new ScheduledResult(
            failed.Count == 0 ? $"{results.Count} catalogues refreshed"
                : $"not reached: {string.Join(", ", failed.Select(result => result.Catalogue.Name))}",
            null, IsQuiet: failed.Count == 0)
        { IsFailed = failed.Count > 0 };
    }

    private void Note(ScheduleFile file, ScheduledTask task, string outcome) => file.Write(file.Read().Select(entry =>
        entry.Schedule.Task != task ? entry
            : entry with { LastRun = session.Host.Clock.GetUtcNow(), LastOutcome = outcome }));

    private void Notify(Schedule schedule, string text)
    {
        if (!schedule.Notifies) return;
        var runtime = session.Host.Variable("XDG_RUNTIME_DIR");
        var bus = session.Host.Variable("DBUS_SESSION_BUS_ADDRESS")
            ?? (runtime is not null && Path.Exists($"{runtime}/bus") ? $"unix:path={runtime}/bus" : null);
        new DesktopNotice(bus).Show($"acrate {TaskWords.Tasks.WordOf(schedule.Task)}", text,
            session.Layout.Scope == InstallScope.AllUsers);
    }
}
