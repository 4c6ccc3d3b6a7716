using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Inspecting;

/// <summary>Finds what earlier runs have left: half-filled folders, versions of apps that are not installed, work
/// folders.</summary>
/// <param name="layout">Where everything lies.</param>
/// <param name="records">The records.</param>
/// <param name="shelf">The shelf.</param>
public sealed class Leftovers(MachineLayout layout, RecordStore records, Shelf shelf)
{
    /// <summary>Finds them, ordered by path.</summary>
    public IReadOnlyList<Leftover> Find() =>
        [.. OnShelf().Concat(AppChange.WorkFolders(layout)).Order(StringComparer.Ordinal)
            .Select(path => new Leftover(path, Directory.Exists(path) ? DiskRoom.Measure(path) : new FileInfo(path).Length))];

    private IEnumerable<string> OnShelf()
    {
        if (!Directory.Exists(layout.ShelfFolder)) yield break;
        var known = records.Ids();
        foreach (var folder in Directory.EnumerateDirectories(layout.ShelfFolder))
        {
            var name = Path.GetFileName(folder);
            if (!AppId.TryParse(name, out var id)) continue;
            if (!known.Contains(name) && !shelf.IsInFront(id)) yield return folder;
            else
                foreach (var half in Shelf.HalvesIn(folder)) yield return half;
        }
    }
}
