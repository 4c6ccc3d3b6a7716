using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Inspecting;

/// <summary>Compares what the record of an app claims with the disk.</summary>
/// <param name="layout">Where everything lies.</param>
/// <param name="placing">The shelf and what is placed.</param>
public sealed class AppInspector(MachineLayout layout, PlacingTools placing)
{
    private const int MostNamed = 5;

    /// <summary>
    /// A quick look: whether the live version is there, and all that was placed. Commands are followed to their program, which
    /// must be executable.
    /// </summary>
    public bool LooksDamaged(InstalledApp app) =>
        !Directory.Exists(layout.FrontOf(app.Id)) || app.Placed.Any(item => IsMissing(item));

    /// <summary>
    /// The placed things that were touched since they were placed and are not as they were. By the time of their last change,
    /// so that few of them must be read.
    /// </summary>
    public bool LooksEdited(InstalledApp app) => app.Placed.Any(item =>
    {
        var path = layout.PathOf(item.Kind, item.Name);
        return (app.PlacedAt is not { } placed || Posix.ChangedAt(path) > placed) && Posix.IsThere(path)
            && !placing.Placer.IsAsPlaced(app, item);
    });

    /// <summary>Whether a version is on the shelf with all its files.</summary>
    /// <param name="app">The version.</param>
    /// <param name="isDeep">Whether the content of every file is read.</param>
    public bool IsShelfWhole(InstalledApp app, bool isDeep = false) => ShelfFaults(app, isDeep, default).Count == 0;

    /// <summary>What is damaged: missing files on the shelf, a missing link, things missing outside; null for nothing.</summary>
    public AppDamage? DamageOf(InstalledApp app)
    {
        var shelf = ShelfFaults(app, isDeep: false, default).Select(fault => fault.Words).ToList();
        List<string> faults = [.. shelf, .. PlaceFaults(app)];
        return faults.Count == 0 ? null : new AppDamage(shelf.Count == 0, faults);
    }

    /// <summary>Everything that is not as the record says.</summary>
    /// <param name="app">The app.</param>
    /// <param name="isDeep">Whether the content of every file on the shelf is read.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public IReadOnlyList<Finding> Inspect(InstalledApp app, bool isDeep, CancellationToken cancel)
    {
        var found = new List<Finding>();
        Advice repair = NextCommand.Create("check", app.Id.Text, "--repair");
        var shelf = ShelfFaults(app, isDeep, cancel);
        foreach (var (words, isContent) in shelf.Take(MostNamed))
            found.Add(new Finding(
                isContent ? FindingKind.ShelfChanged : FindingKind.ShelfMissing, app.Id.Text, words,
                isContent ? NextCommand.Create("check", app.Id.Text, "--repair", "--deep") : repair)
            { IsRepairable = true });
        if (shelf.Count > MostNamed)
            found.Add(new Finding(
                FindingKind.ShelfMissing, app.Id.Text,
                $"{shelf.Count - MostNamed} more files of {layout.ShelfOf(app.Id)}/{app.ShelfName} are not as they were", repair)
            { IsRepairable = true });
        foreach (var words in PlaceFaults(app))
            found.Add(new Finding(FindingKind.PlaceMissing, app.Id.Text, words, repair)
            {
                IsRepairable = true,
            });
        var edited = placing.Placer.Edited(app);
        foreach (var path in edited)
            found.Add(new Finding(
                FindingKind.PlaceChanged, app.Id.Text, $"{path} was changed by hand",
                Advice.Combine($"keep it, or move it away and run {NextCommand.Create("check", app.Id.Text, "--repair")}")));
        if (placing.Placer.PutRight(app) is not null)
            found.Add(new Finding(
                FindingKind.Moved, app.Id.Text,
                $"the menu entries of {app.Id} name a folder that was moved", repair)
            { IsRepairable = true });
        if (found.Count == 0 || edited.Count == found.Count)
        {
            foreach (var fault in placing.Placer.Faults(app, edited).Concat(placing.Placer.Lacking(app)))
                found.Add(new Finding(
                    FindingKind.CannotStart, app.Id.Text, fault, "install what it lacks"));
        }

        return found;
    }

    private List<string> PlaceFaults(InstalledApp app)
    {
        List<string> faults = [];
        if (placing.Shelf.LiveName(app.Id) != app.ShelfName)
            faults.Add($"{layout.FrontOf(app.Id)} does not lead to {app.Version}");
        foreach (var item in app.Placed)
        {
            var path = layout.PathOf(item.Kind, item.Name);
            if (!Posix.IsThere(path)) faults.Add($"{path} is missing");
            else if (!placing.Placer.IsAsPlaced(app, item) && placing.Placer.VersionAt(app, item) is { } other)
                faults.Add($"{path} is of version {other.Version}");
        }

        return faults;
    }

    private List<(string Words, bool IsContent)> ShelfFaults(InstalledApp app, bool isDeep, CancellationToken cancel)
    {
        var folder = placing.Shelf.FolderOf(app);
        if (!Directory.Exists(folder)) return [($"{folder} is missing", false)];
        if (placing.Shelf.ManifestOf(app) is { } manifest)
            return [.. manifest.FaultsIn(folder, isDeep && !app.UpdatesItself, cancel)
                .Where(fault => !app.UpdatesItself || fault.Fault == "is missing")
                .Select(fault => ($"{Path.Combine(folder, fault.Path)} {fault.Fault}",
                    fault.Fault.StartsWith("has another", StringComparison.Ordinal)))];

        // A version from before there were manifests: what it places must be there.
        return [.. app.Placed.Where(item => item.Source is not null && !Posix.IsThere(Path.Combine(folder, item.Source.Text)))
            .Select(item => ($"{Path.Combine(folder, item.Source!.Text)} is missing", false))];
    }

    private bool IsMissing(PlacedItem item)
    {
        var path = layout.PathOf(item.Kind, item.Name);
        return item.Kind == PlaceKind.Command ? !Posix.IsExecutable(path) : !Posix.IsThere(path);
    }
}
