using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Reclaiming;

/// <summary>Frees space: old versions, downloads, leftovers and logs. What undo needs stays for a set time.</summary>
/// <param name="session">The session.</param>
public sealed class Reclaim(Session session)
{
    /// <summary>Plans, shows the plan, asks, and carries it out if the user agrees.</summary>
    /// <param name="options">What was requested.</param>
    /// <param name="cancel">Stops; what is gone is gone.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been deleted.</exception>
    public ReclaimResult Run(RunOptions options, CancellationToken cancel)
    {
        var opening = new RootOpener(session);
        if (!options.IsDryRun) opening.RaiseIfNeeded(RootOpener.WithoutTerminal);
        using var station = opening.ToChange(options.IsDryRun, RootOpener.WithoutTerminal, makesRoom: true);
        var plan = Find(station);
        if (options.IsDryRun) return new ReclaimResult(RunEnd.PlanOnly, plan);
        if (!plan.Items.Any(item => item.Kept is null)) return new ReclaimResult(RunEnd.NothingLeft, plan);
        session.Watch(new OperationEvent.Reclaiming(plan));
        if (!options.IsAgreed && !(session.Confirm.CanAsk
            ? session.Confirm.MayReclaim(plan, cancel)
            : throw RootOpener.CannotAsk().ToException())) return new ReclaimResult(RunEnd.CalledOff, plan);
        List<(ReclaimItem Item, string Fault)> failed = [];
        var freed = 0L;
        foreach (var item in plan.Items.Where(item => item.Kept is null))
        {
            if (cancel.IsCancellationRequested) break;
            try
            {
                RoomReserve.WithReserve(station.Layout, () =>
                {
                    Delete(item, station.Records, station.Placing.Shelf, station.UndoNeeds.Since);
                    return true;
                });
                freed += item.Size;
            }
            catch (Exception fault) when (IoProblems.IsExpected(fault))
            {
                failed.Add((item, IoProblems.ToProblem(fault, "it cannot be deleted").Why));
            }
        }

        return new ReclaimResult(RunEnd.Ran, plan)
        {
            Failed = failed, Freed = freed, IsInterrupted = cancel.IsCancellationRequested,
        };
    }

    private static void Delete(ReclaimItem item, RecordStore records, Shelf shelf, DateTimeOffset since)
    {
        if (item.Kind == ReclaimKind.Record)
        {
            records.RemoveOldRuns(since);
            return;
        }

        if (item is { Kind: ReclaimKind.OldVersion, App: { } app })
            shelf.DropVersion(app, Path.GetFileName(item.Path));
        else if (Directory.Exists(item.Path)) DeepFolder.Delete(item.Path);
        else File.Delete(item.Path);
    }

    private ReclaimPlan Find(OpenRoot station)
    {
        var undo = station.UndoNeeds;
        return new ReclaimPlan(
            [
                .. OldVersions(station.Apps.Read(), station.Layout, station.Placing.Shelf, undo),
                .. Downloads(station.Layout, undo),
                .. new Leftovers(station.Layout, station.Records, station.Placing.Shelf).Find()
                    .Select(left => new ReclaimItem(ReclaimKind.Leftover, null, left.Path, left.Size)),
                .. Logs(station.Layout, undo.Since), .. OldRuns(station.Layout, station.Records, undo.Since),
            ],
            session.Settings.UndoDays);
    }

    private static IEnumerable<ReclaimItem> OldRuns(MachineLayout layout, RecordStore records, DateTimeOffset since)
    {
        if (records.OldRuns(since) is { Count: > 0 } old)
            yield return new ReclaimItem(ReclaimKind.Record, null, layout.RecordsFile, old.Size) { Count = old.Count };
    }

    private static IEnumerable<ReclaimItem> OldVersions(
        MachineState machine, MachineLayout layout, Shelf onShelf, UndoNeeds undo)
    {
        var states = undo.States.ToLookup(one => (one.App.Id, one.App.ShelfName), one => (DateTimeOffset?)one.Until);
        foreach (var app in machine.Apps)
        {
            var shelf = layout.ShelfOf(app.Id);
            if (!Directory.Exists(shelf)) continue;
            var live = onShelf.LiveName(app.Id) ?? app.ShelfName;
            foreach (var folder in Directory.EnumerateDirectories(shelf).Order(StringComparer.Ordinal))
            {
                var name = Path.GetFileName(folder);
                if (name == live || name == app.ShelfName || name.StartsWith('.')) continue;
                var noted = onShelf.NoteOf(app.Id, name);
                var until = states[(app.Id, name)].Max();
                var kept = RunningApps.In(folder).Count > 0 ? "in use"
                    : machine.Pins.InForce(app.Id) is { } pin && noted is not null
                        && pin.Selector.Accepts(noted.Version, noted.Line) ? "pinned"
                    : until is { } day ? $"for undo until {day.ToLocalTime():yyyy-MM-dd}" : null;
                yield return new ReclaimItem(ReclaimKind.OldVersion, app.Id, folder, DiskRoom.Measure(folder))
                { Kept = kept };
            }
        }
    }

    private static IEnumerable<ReclaimItem> Downloads(MachineLayout layout, UndoNeeds undo)
    {
        if (!Directory.Exists(layout.DownloadsFolder)) yield break;
        foreach (var file in new DirectoryInfo(layout.DownloadsFolder).EnumerateFiles().OrderBy(file => file.Name))
        {
            if (!Sha256Digest.TryParse(file.Name, out var digest)) continue;
            var kept = undo.Files.TryGetValue(digest.Hex, out var until)
                ? $"for undo until {until.ToLocalTime():yyyy-MM-dd}"
                : null;
            yield return new ReclaimItem(ReclaimKind.Download, null, file.FullName, file.Length) { Kept = kept };
        }
    }

    private static IEnumerable<ReclaimItem> Logs(MachineLayout layout, DateTimeOffset since)
    {
        if (!Directory.Exists(layout.LogsFolder)) yield break;
        foreach (var folder in new DirectoryInfo(layout.LogsFolder).EnumerateDirectories().OrderBy(folder => folder.Name))
        {
            if (folder.LastWriteTimeUtc < since.UtcDateTime)
                yield return new ReclaimItem(ReclaimKind.Log, null, folder.FullName, DiskRoom.Measure(folder.FullName));
        }
    }
}
