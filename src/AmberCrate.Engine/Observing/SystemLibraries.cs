namespace AmberCrate.Engine.Observing;

/// <summary>
/// Finds the shared libraries of a system as its loader does: in the loader's own list, then in the usual folders.
/// </summary>
/// <param name="root">The root of the system.</param>
public sealed class SystemLibraries(string root)
{
    private static readonly string[] UsualFolders = ["lib64", "usr/lib64", "lib", "usr/lib", "usr/local/lib"];

    private readonly Lazy<ILookup<string, string>> _cache = new(() => LoaderCache.Read(ReadCache(root)));
    private readonly Lazy<List<string>> _folders = new(() => [.. Folders(root)]);

    /// <summary>The paths inside the root at which a library may be, for any architecture; none where it is not there.</summary>
    /// <param name="soname">The name that programs load it by.</param>
    public IEnumerable<string> Find(string soname) => _cache.Value[soname].Select(path => Path.Combine(root, path.TrimStart('/')))
        .Concat(_folders.Value.Select(folder => Path.Combine(folder, soname)))
        .Where(File.Exists);

    /// <summary>The folders of Debian's architectures below <c>/usr/lib</c>, and the common ones.</summary>
    internal IReadOnlyList<string> LibraryFolders => _folders.Value;

    private static IEnumerable<string> Folders(string root)
    {
        foreach (var name in UsualFolders)
        {
            var folder = Path.Combine(root, name);
            yield return folder;

            // Debian's folders for each architecture.
            if (!name.EndsWith("lib", StringComparison.Ordinal) || !Directory.Exists(folder)) continue;
            foreach (var architecture in Directory.EnumerateDirectories(folder, "*-linux-*")) yield return architecture;
        }
    }

    private static byte[] ReadCache(string root)
    {
        try
        {
            return File.ReadAllBytes(Path.Combine(root, "etc/ld.so.cache"));
        }
        catch (Exception unreadable) when (unreadable is IOException or UnauthorizedAccessException)
        {
            return [];
        }
    }
}
