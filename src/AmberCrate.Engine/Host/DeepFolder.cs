namespace AmberCrate.Engine.Host;

/// <summary>
/// Deletes folders that somebody else has filled: with folders that cannot be entered, or so deep that no path leads to the end.
/// </summary>
internal static class DeepFolder
{
    /// <summary>A path may have 4095 bytes, of which a name has 255 at most.</summary>
    private const int LongestPath = 3000;

    private const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;

    /// <summary>Deletes a folder with all that is in it, following no link. Nothing happens where there is none.</summary>
    /// <exception cref="IOException">Something cannot be deleted.</exception>
    public static void Delete(string folder)
    {
        if (!Directory.Exists(folder)) return;
        try
        {
            Directory.Delete(folder, recursive: true);
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException or ArgumentException)
        {
            var deep = new Queue<string>();
            Empty(folder, folder, deep);
            while (deep.TryDequeue(out var next))
            {
                Empty(next, folder, deep);
                Directory.Delete(next);
            }

            Directory.Delete(folder);
        }
    }

    /// <summary>Empties a folder; what lies too deep is moved to the top, for another time.</summary>
    private static void Empty(string folder, string top, Queue<string> deep)
    {
        File.SetUnixFileMode(folder, OwnerOnly);
        foreach (var path in Directory.EnumerateFileSystemEntries(folder))
        {
            if (new FileInfo(path).LinkTarget is not null || !Directory.Exists(path)) File.Delete(path);
            else if (System.Text.Encoding.UTF8.GetByteCount(path) > LongestPath)
            {
                var moved = Path.Combine(top, $".deep-{Guid.NewGuid():N}");
                Posix.Rename(path, moved);
                deep.Enqueue(moved);
            }
            else
            {
                Empty(path, top, deep);
                Directory.Delete(path);
            }
        }
    }
}
