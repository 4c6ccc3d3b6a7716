namespace AmberCrate.Engine.Observing;

/// <summary>
/// What a package brings that only works as a part of the system, and is not placed: its programs may need it.
/// </summary>
/// <param name="root">The root of the system.</param>
internal sealed class SystemParts(string root)
{
    private const string BusServices = "usr/share/dbus-1/system-services", State = "var";
    private const int MostFolders = 1000;

    /// <summary>The parts that the system does not have, in words; in order.</summary>
    /// <param name="folder">The unpacked files.</param>
    public IEnumerable<string> FindMissing(string folder)
    {
        var services = Path.Combine(folder, BusServices);
        string[] found = Directory.Exists(services) ? Directory.GetFiles(services, "*.service") : [];
        foreach (var service in found.Order(StringComparer.Ordinal))
        {
            if (!Path.Exists(Path.Combine(root, BusServices, Path.GetFileName(service))))
                yield return $"the service {Path.GetFileNameWithoutExtension(service)} for the system's message bus";
        }

        foreach (var path in StateFolders(folder))
        {
            if (!Path.Exists(Path.Combine(root, path))) yield return $"the folder /{path}";
        }
    }

    /// <summary>The innermost folders for data that programs change, as paths from the root.</summary>
    private static IEnumerable<string> StateFolders(string folder)
    {
        var state = new DirectoryInfo(Path.Combine(folder, State));
        if (!state.Exists || state.LinkTarget is not null) return [];
        return state.EnumerateDirectories("*", new EnumerationOptions { RecurseSubdirectories = true })
            .Take(MostFolders).Where(one => one.LinkTarget is null && !one.EnumerateDirectories().Any())
            .Select(one => Path.GetRelativePath(folder, one.FullName)).Order(StringComparer.Ordinal);
    }
}
