using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Storage;

/// <summary>
/// The copy of a database that only its owner can open. Whoever can open a database can hold its locks, and with them keep its
/// owner from writing; a copy is replaced as a whole, and nobody waits for those who read it.
/// </summary>
internal static class PublicCopy
{
    private const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite;
    private const UnixFileMode AllRead = OwnerOnly | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    /// <summary>Where the copy of a database is.</summary>
    public static string PathOf(string database) =>
        Path.Combine(Path.GetDirectoryName(database)!, $"{Path.GetFileNameWithoutExtension(database)}-copy.db");

    /// <summary>Whether this process has to read the copy, since it may not read the database.</summary>
    public static bool IsNeeded(string database) => File.Exists(database) && !Posix.CanRead(database);

    /// <summary>Closes a database, which may not be there yet, and the files of its log to all others.</summary>
    public static void CloseToOthers(string database)
    {
        if (!File.Exists(database))
            using (File.OpenHandle(database, FileMode.CreateNew, FileAccess.Write)) File.SetUnixFileMode(database, OwnerOnly);
        foreach (var file in new[] { database, $"{database}-wal", $"{database}-shm" }.Where(File.Exists))
        {
            if (File.GetUnixFileMode(file) != OwnerOnly) File.SetUnixFileMode(file, OwnerOnly);
        }
    }

    /// <summary>Whether the copy is missing, or older than the database.</summary>
    public static bool IsOld(string database)
    {
        var copy = File.GetLastWriteTimeUtc(PathOf(database));
        return File.GetLastWriteTimeUtc(database) > copy || File.GetLastWriteTimeUtc($"{database}-wal") > copy;
    }

    /// <summary>Writes the copy. All of the database must be in its file, and nothing in its log.</summary>
    /// <exception cref="IOException">It cannot be written.</exception>
    public static void Write(string database) => AtomicFile.Copy(database, PathOf(database), AllRead);
}
