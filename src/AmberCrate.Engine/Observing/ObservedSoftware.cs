using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Observing;

/// <summary>Everything on a machine that others have put there, each thing once.</summary>
/// <param name="layout">Where this program's own things lie.</param>
/// <param name="other">Where those of the other scope lie.</param>
/// <param name="systemRoot">The folder that counts as <c>/</c>.</param>
/// <param name="ours">The installed apps of both scopes.</param>
public sealed class ObservedSoftware(
    MachineLayout layout, MachineLayout other, string systemRoot, IReadOnlyCollection<InstalledApp> ours)
{
    /// <summary>Finds it, ordered by kind and name.</summary>
    /// <param name="say">Receives what could not be read.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public IReadOnlyList<ObservedApp> Find(Action<string> say, CancellationToken cancel)
    {
        var apps = Observers().SelectMany(observer => observer.Observe(say, cancel)).ToList();
        var components = new ComponentFiles(DataFolders()).Read(say);
        return [.. Merged(apps, components).OrderBy(app => app.Kind).ThenBy(app => app.Name, StringComparer.Ordinal)];
    }

    private IEnumerable<ISystemObserver> Observers()
    {
        var dpkg = new DpkgStatus(systemRoot);
        yield return File.Exists(dpkg.Path) ? dpkg : new PackageQuery(systemRoot);
        var placed = Placed();
        yield return new DesktopFiles(DataFolders(), placed.Contains);
        List<string> folders = [Path.Combine(systemRoot, "opt"), Path.Combine(systemRoot, "Applications")];
        if (layout.HomeFolder is { } home) folders.Add(Path.Combine(home, "Applications"));
        yield return new ForeignFolders(folders, path =>
            path == layout.OwnFolder || path == other.OwnFolder || placed.Contains(path));
    }

    /// <summary>The folders for data of the XDG Base Directory specification, the user's own first.</summary>
    private IReadOnlyList<string> DataFolders() =>
    [
        .. layout.Scope == InstallScope.ThisUser ? [layout.DataFolder] : (string[])[],
        Path.Combine(systemRoot, "usr/local/share"), Path.Combine(systemRoot, "usr/share"),
    ];

    private HashSet<string> Placed() => new[] { layout, other }
        .SelectMany(one => ours.SelectMany(app => app.Placed).Select(item => one.PathOf(item.Kind, item.Name)))
        .ToHashSet(StringComparer.Ordinal);

    /// <summary>A menu entry that is named after a package, or starts a program of its name, is that package.</summary>
    private static IEnumerable<ObservedApp> Merged(
        List<ObservedApp> apps, IReadOnlyDictionary<string, (string? Name, string? Version)> components)
    {
        var packages = apps.Where(app => app.Kind == ObservedKind.SystemPackage)
            .GroupBy(app => app.Name, StringComparer.Ordinal)
            .ToDictionary(group => group.Key, group => group.First(), StringComparer.Ordinal);
        foreach (var app in apps.Where(app => app.Kind != ObservedKind.SystemPackage))
        {
            var told = app.DesktopIds.Select(id => components.GetValueOrDefault(id)).FirstOrDefault();
            var entry = app with { Title = app.Title ?? told.Name, VersionText = app.VersionText ?? told.Version };
            var name = app.Kind != ObservedKind.DesktopEntry ? null
                : packages.ContainsKey(app.Name) ? app.Name
                : app.Program is { } program && packages.ContainsKey(program) ? program : null;
            if (name is null) yield return entry;
            else
                packages[name] = packages[name] with
                {
                    Title = packages[name].Title ?? entry.Title,
                    DesktopIds = [.. packages[name].DesktopIds, .. app.DesktopIds],
                    Program = packages[name].Program ?? app.Program,
                    Places = [.. packages[name].Places, .. app.Places],
                };
        }

        foreach (var package in packages.Values) yield return package;
    }
}
