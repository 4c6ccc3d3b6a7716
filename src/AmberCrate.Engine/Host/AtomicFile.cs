using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Host;

/// <summary>
/// The one class that creates or replaces a final file: written beside it, flushed, checked, renamed, folder flushed.
/// </summary>
public static class AtomicFile
{
    private const string Ending = ".acrate-new";

    /// <summary>Creates or replaces a file with these bytes.</summary>
    /// <param name="path">The file; its folder is created where missing.</param>
    /// <param name="bytes">The content.</param>
    /// <param name="mode">The permissions, set before the file appears under its name.</param>
    /// <param name="isFlushed">Whether it is on the disk afterwards; otherwise the caller flushes the whole file system.</param>
    public static void Write(string path, ReadOnlySpan<byte> bytes, UnixFileMode mode, bool isFlushed = true)
    {
        var folder = MakeFolder(Path.GetDirectoryName(Path.GetFullPath(path))!);
        var beside = Beside(path);
        try
        {
            using (var file = new FileStream(
                beside, new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write, UnixCreateMode = mode }))
            {
                file.Write(bytes);
                file.Flush(isFlushed);
                if (file.Length != bytes.Length)
                    throw new IOException($"{path}: {file.Length} of {bytes.Length} bytes were written");
            }

            File.SetUnixFileMode(beside, mode);
            CrashPoints.Pass();
            Posix.Rename(beside, path);
            CrashPoints.Pass();
            if (isFlushed) Posix.FlushFolder(folder);
        }
        catch
        {
            File.Delete(beside);
            throw;
        }
    }

    /// <summary>Creates or replaces a file with what another one holds.</summary>
    /// <param name="from">The other file.</param>
    /// <param name="path">The file; its folder is there.</param>
    /// <param name="mode">The permissions, set before the file appears under its name.</param>
    /// <exception cref="IOException">It cannot be written.</exception>
    public static void Copy(string from, string path, UnixFileMode mode)
    {
        var beside = Beside(path);
        try
        {
            using (var source = File.OpenRead(from))
            using (var target = new FileStream(
                beside, new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.Write, UnixCreateMode = mode }))
            {
                source.CopyTo(target);
                target.Flush(flushToDisk: true);
            }

            File.SetUnixFileMode(beside, mode);
            Posix.Rename(beside, path);
            Posix.FlushFolder(Path.GetDirectoryName(path)!);
        }
        catch
        {
            File.Delete(beside);
            throw;
        }
    }

    /// <summary>Creates or replaces a symbolic link.</summary>
    public static void Link(string path, string target)
    {
        var folder = MakeFolder(Path.GetDirectoryName(Path.GetFullPath(path))!);
        var beside = Beside(path);
        File.CreateSymbolicLink(beside, target);
        try
        {
            CrashPoints.Pass();
            Posix.Rename(beside, path);
            CrashPoints.Pass();
            Posix.FlushFolder(folder);
        }
        catch
        {
            File.Delete(beside);
            throw;
        }
    }

    /// <summary>Creates a folder, and those above it that are missing; each is on the disk before the next is made.</summary>
    /// <returns>The folder.</returns>
    public static string MakeFolder(string folder)
    {
        if (Directory.Exists(folder)) return folder;
        var above = Path.GetDirectoryName(Path.GetFullPath(folder));
        if (above is not null) MakeFolder(above);
        Directory.CreateDirectory(folder);
        if (above is not null) Posix.FlushFolder(above);
        return folder;
    }

    /// <summary>Removes files or links; that they are gone is on the disk then.</summary>
    public static void Remove(IEnumerable<string> paths)
    {
        var folders = new HashSet<string>(StringComparer.Ordinal);
        foreach (var path in paths)
        {
            File.Delete(path);
            CrashPoints.Pass();
            folders.Add(Path.GetDirectoryName(path)!);
        }

        foreach (var folder in folders) Posix.FlushFolder(folder);
    }

    /// <summary>Removes what a process that died left beside a file. Only for the one who holds the lock.</summary>
    public static void DropLeftovers(string path)
    {
        var folder = Path.GetDirectoryName(Path.GetFullPath(path))!;
        if (!Directory.Exists(folder)) return;
        foreach (var left in Directory.EnumerateFileSystemEntries(folder, $".{Path.GetFileName(path)}.*{Ending}"))
            File.Delete(left);
    }

    /// <summary>
    /// Deletes what killed processes left in a folder: files that never got their name. Some may be private keys.
    /// </summary>
    /// <param name="folder">The folder.</param>
    /// <param name="isDeep">Whether to look in the folders below it, too.</param>
    public static void Sweep(string folder, bool isDeep = false)
    {
        if (!Directory.Exists(folder)) return;
        var everywhere = new EnumerationOptions
        {
            // Links are not followed: one that leads upwards would never end.
            RecurseSubdirectories = isDeep, AttributesToSkip = FileAttributes.ReparsePoint, IgnoreInaccessible = true,
            MatchType = MatchType.Simple,
        };
        foreach (var left in Directory.EnumerateFiles(folder, $".*{Ending}", everywhere))
        {
            var process = Path.GetFileName(left)[..^Ending.Length];
            if (WorkFolder.IsGone(process[(process.LastIndexOf('.') + 1)..])) File.Delete(left);
        }
    }

    private static string Beside(string path) =>
        Path.Combine(
            Path.GetDirectoryName(Path.GetFullPath(path))!, $".{Path.GetFileName(path)}.{Environment.ProcessId}{Ending}");
}
