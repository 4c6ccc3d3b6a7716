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
    public static void Write(string path, ReadOnlySpan<byte> bytes, UnixFileMode mode)
    {
        var folder = Directory.CreateDirectory(Path.GetDirectoryName(Path.GetFullPath(path))!).FullName;
        var beside = Beside(path);
        try
        {
            using (var file = new FileStream(
                beside, new FileStreamOptions { Mode = FileMode.CreateNew, Access = FileAccess.Write, UnixCreateMode = mode }))
            {
                file.Write(bytes);
                file.Flush(flushToDisk: true);
                if (file.Length != bytes.Length)
                    throw new IOException($"{path}: {file.Length} of {bytes.Length} bytes were written");
            }

            File.SetUnixFileMode(beside, mode);
            Steps.Pass();
            Posix.Rename(beside, path);
            Steps.Pass();
            Posix.FlushFolder(folder);
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
        var folder = Directory.CreateDirectory(Path.GetDirectoryName(Path.GetFullPath(path))!).FullName;
        var beside = Beside(path);
        File.CreateSymbolicLink(beside, target);
        try
        {
            Steps.Pass();
            Posix.Rename(beside, path);
            Steps.Pass();
            Posix.FlushFolder(folder);
        }
        catch
        {
            File.Delete(beside);
            throw;
        }
    }

    /// <summary>Removes what a process that died left beside a file. Only for the one who holds the lock.</summary>
    public static void DropLeftovers(string path)
    {
        var folder = Path.GetDirectoryName(Path.GetFullPath(path))!;
        if (!Directory.Exists(folder)) return;
        foreach (var left in Directory.EnumerateFileSystemEntries(folder, $".{Path.GetFileName(path)}.*{Ending}"))
            File.Delete(left);
    }

    private static string Beside(string path) =>
        Path.Combine(
            Path.GetDirectoryName(Path.GetFullPath(path))!, $".{Path.GetFileName(path)}.{Environment.ProcessId}{Ending}");
}
