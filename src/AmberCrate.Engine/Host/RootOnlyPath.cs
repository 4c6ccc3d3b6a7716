using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Host;

/// <summary>
/// Whether a file can be changed by root only: it and every folder above it belong to root, and only root may write.
/// </summary>
internal static class RootOnlyPath
{
    private const UnixFileMode OthersWrite = UnixFileMode.GroupWrite | UnixFileMode.OtherWrite;

    /// <summary>What of a path others can change; null where they can change nothing.</summary>
    /// <param name="path">The absolute path. It must be safe as it is written, and as it is with all its links followed.</param>
    public static string? ChangeableIn(string path) =>
        FirstIn(path) ?? (RealPath.Resolve(path) is { } real ? FirstIn(real) : path);

    private static string? FirstIn(string path)
    {
        for (var at = path; at is not null; at = Path.GetDirectoryName(at))
        {
            if (Posix.OwnerOf(at) != 0 || (File.GetUnixFileMode(at) & OthersWrite) != 0) return at;
        }

        return null;
    }
}
