using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Placing;

/// <summary>
/// What the disk says about installed apps. Where someone has put an older copy of the records back, the link to the live
/// version and the note beside it on the shelf know better than the records.
/// </summary>
/// <param name="layout">Where everything lies.</param>
/// <param name="shelf">The shelf.</param>
public sealed class ShelfVersusRecords(MachineLayout layout, Shelf shelf)
{
    /// <summary>
    /// The apps whose records differ from the disk: as recorded, and as they are. Null means an app that
    /// is not installed.
    /// </summary>
    /// <param name="records">Every app on record.</param>
    /// <param name="open">The ids of apps in the middle of a change; they are skipped.</param>
    public IReadOnlyList<(InstalledApp? Record, InstalledApp? Disk)> Differences(
        IReadOnlyCollection<InstalledApp> records, IReadOnlySet<string> open)
    {
        List<(InstalledApp? Record, InstalledApp? Disk)> found = [];
        foreach (var app in records.Where(app => !open.Contains(app.Id.Text)))
        {
            var live = shelf.LiveName(app.Id);
            if (live == app.ShelfName) continue;
            if (live is not null && shelf.NoteOf(app.Id, live) is { } disk) found.Add((app, disk));
            else if (live is null && IsGone(app)) found.Add((app, null));
        }

        var known = records.Select(app => app.Id.Text).Concat(open).ToHashSet(StringComparer.Ordinal);
        foreach (var id in shelf.InFront(known).Select(AppId.Parse))
        {
            if (shelf.LiveName(id) is { } live && shelf.NoteOf(id, live) is { } disk) found.Add((null, disk));
        }

        return found;
    }

    /// <summary>Whether nothing of an app is left, as after it was uninstalled.</summary>
    private bool IsGone(InstalledApp app) => !Directory.Exists(layout.ShelfOf(app.Id))
        && !app.Placed.Any(item => Posix.IsThere(layout.PathOf(item.Kind, item.Name)));
}
