using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Runs;

/// <summary>What apps keep in a user's home, as their cards have declared.</summary>
/// <param name="layout">Where everything lies.</param>
/// <param name="apps">The installed apps: what several of them declare is nobody's alone.</param>
public sealed class KeptSettings(MachineLayout layout, IReadOnlyCollection<InstalledApp> apps)
{
    /// <summary>An item that uninstalls an app, with what becomes of its settings.</summary>
    /// <param name="item">The item.</param>
    /// <param name="areRemoved">Whether the user wants them deleted.</param>
    public PlanItem Told(PlanItem item, bool areRemoved)
    {
        if (item.Installed is not { Settings: { Count: > 0 } declared } app) return item;
        if (layout.HomeFolder is null) return item with { Notes = [.. item.Notes, PlanNote.SettingsStay(declared)] };
        List<string> there = [.. declared.Select(path => layout.SettingsOf(path)).OfType<string>().Where(Posix.IsThere)];
        if (there.Count == 0) return item;
        List<string> gone = areRemoved ? there.FindAll(path => !IsShared(path, app)) : [];
        var kept = there.Except(gone).ToList();
        return item with
        {
            RemovedSettings = gone,
            Notes =
            [
                .. item.Notes, .. kept.Count > 0 ? [PlanNote.SettingsStay(kept)] : (PlanNote[])[],
                .. gone.Count > 0 ? [PlanNote.SettingsGo(gone)] : (PlanNote[])[],
            ],
        };
    }

    /// <summary>Deletes settings; a link is deleted and not followed.</summary>
    /// <param name="paths">The files and folders.</param>
    public static void Remove(IEnumerable<string> paths)
    {
        foreach (var path in paths)
        {
            if (new FileInfo(path).LinkTarget is not null || !Directory.Exists(path)) File.Delete(path);
            else DeepFolder.Delete(path);
        }
    }

    private bool IsShared(string path, InstalledApp app) => apps.Where(other => other.Id != app.Id)
        .SelectMany(other => other.Settings ?? [])
        .Select(other => layout.SettingsOf(other))
        .Any(other => other == path || other?.StartsWith(path + "/", StringComparison.Ordinal) == true);
}
