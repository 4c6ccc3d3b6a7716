using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;

namespace AmberCrate.Engine.Listing;

/// <summary>Looks at the disk and the catalogues for what there is to know of installed apps at a glance.</summary>
/// <param name="layout">Where they are.</param>
/// <param name="inspector">Compares them with the disk.</param>
/// <param name="machine">What is on the machine.</param>
internal sealed class AppMarks(MachineLayout layout, AppInspector inspector, MachineState machine)
{
    private readonly IReadOnlySet<AppId> _notNeeded = NotNeeded.Find(machine);
    private readonly IReadOnlySet<AppId> _running = RunningApps.IdsIn(layout.ShelfFolder);

    /// <summary>The apps with their marks, in the order they came.</summary>
    public IReadOnlyList<ScopedEntry> Mark(IReadOnlyList<DueEntry> entries)
    {
        var marked = new ScopedEntry[entries.Count];
        Parallel.For(0, entries.Count, at => marked[at] = new ScopedEntry(layout.Scope, entries[at])
        {
            Marks = [.. MarksOf(entries[at])],
            Place = Path.Combine(layout.ShelfOf(entries[at].App.Id), entries[at].App.ShelfName),
        });
        return marked;
    }

    private IEnumerable<AppMark> MarksOf(DueEntry entry)
    {
        var app = entry.App;
        if (entry.State == DueState.Due) yield return AppMark.Outdated;
        if ((entry.State is DueState.Due or DueState.UpdatesItself && entry.IsSecurity) || entry.HeldFix is not null)
            yield return AppMark.Security;
        if (entry.State is DueState.HeldBack or DueState.Follows or DueState.Pinned or DueState.OtherPlatform)
            yield return AppMark.HeldBack;
        if (entry.Pin is { } pin) yield return pin.IsLapsed(machine.Pins.Today) ? AppMark.PinLapsed : AppMark.Pinned;
        if (_running.Contains(app.Id)) yield return AppMark.InUse;
        if (inspector.LooksDamaged(app)) yield return AppMark.Damaged;
        else if (inspector.LooksEdited(app)) yield return AppMark.Edited;
        if (entry.Withdrawn is not null) yield return AppMark.Withdrawn;
        if (entry.State == DueState.Changed) yield return AppMark.Changed;
        if (entry.State == DueState.Paused) yield return AppMark.CataloguePaused;
        if (entry.State is DueState.Dropped or DueState.NotOffered or DueState.NotFetched) yield return AppMark.NotOffered;
        if (app.IsDependency) yield return _notNeeded.Contains(app.Id) ? AppMark.NotNeeded : AppMark.Dependency;
        if (app.UpdatesItself) yield return AppMark.UpdatesItself;
        if (machine.IsProtected(app)) yield return AppMark.Protected;
    }
}
