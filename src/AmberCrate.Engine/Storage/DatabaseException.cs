using System.Text;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;
using SQLitePCL;

namespace AmberCrate.Engine.Storage;

/// <summary>SQLite could not do what was asked of it.</summary>
public sealed class DatabaseException : Exception, IHasProblem
{
    private const long FewInodes = 4;
    private const int Busy = 5, ReadOnly = 8, FailedIo = 10, Corrupt = 11, Full = 13, CannotOpen = 14, NotADatabase = 26;

    /// <summary>Makes one.</summary>
    /// <param name="message">SQLite's own words.</param>
    /// <param name="code">SQLite's primary result code.</param>
    /// <param name="cause">What has shown it; null where SQLite has.</param>
    public DatabaseException(string message, int code, Exception? cause = null)
        : base(message, cause) => Code = code;

    /// <summary>SQLite's primary result code.</summary>
    public int Code { get; }

    /// <summary>
    /// Whether the file is damaged, or no database at all. A disk that fails to read is something else: the data on it may be
    /// good.
    /// </summary>
    public bool IsDamage => Code is Corrupt or NotADatabase && !HasFailedToRead(File);

    /// <summary>Whether a file cannot be read to its end. SQLite may take what a failing disk gives for damage.</summary>
    private static bool HasFailedToRead(string path)
    {
        const int FailedInput = 5, BufferSize = 1 << 20;
        if (path.Length == 0) return false;
        try
        {
            using var file = System.IO.File.OpenHandle(path, FileMode.Open, FileAccess.Read,
                FileShare.ReadWrite | FileShare.Delete);
            var buffer = new byte[BufferSize];
            var at = 0L;
            for (int read; (read = RandomAccess.Read(file, buffer, at)) > 0;) at += read;
            return false;
        }
        catch (IOException fault)
        {
            return fault.HResult == FailedInput;
        }
        catch (UnauthorizedAccessException)
        {
            return false;
        }
    }

    /// <summary>The database; empty where it is not in a file, or could not be opened.</summary>
    public string File { get; private init; } = "";

    /// <summary>A database could not be opened.</summary>
    internal static DatabaseException NotOpened(string file, string message, int code) =>
        new(message, code, OpenFault(file)) { File = file };

    /// <summary>What is in a database is not what was written there, as its reader has found where SQLite cannot.</summary>
    internal static DatabaseException Damaged(string? file, Exception cause) =>
        new(cause.Message, Corrupt, cause) { File = file ?? "" };

    /// <summary>
    /// Reads something that was checked before it was written: where it cannot be read, the database is damaged.
    /// </summary>
    /// <param name="file">The database; null where it is not in a file.</param>
    /// <param name="read">Reads it.</param>
    internal static T Reading<T>(string? file, Func<T> read)
    {
        try
        {
            return read();
        }
        catch (Exception fault) when (fault is FormatException or OverflowException)
        {
            throw Damaged(file, fault);
        }
    }

    internal static DatabaseException FromResult(sqlite3 connection, int code)
    {
        var file = raw.sqlite3_db_filename(connection, "main").utf8_to_string() ?? "";
        var cause = (code & 0xff) == CannotOpen ? OpenFault(file) : null;
        return new DatabaseException($"SQLite: {raw.sqlite3_errmsg(connection).utf8_to_string()}", code & 0xff, cause)
        {
            File =
            file
        };
    }

    /// <inheritdoc/>
    bool IHasProblem.IsNoRoom => Code == Full || (Code == FailedIo && IsDiskFull(File))
        || (Code == CannotOpen && HasNoInode(File));

    /// <inheritdoc/>
    Problem IHasProblem.Explain(string what) => Code switch
    {
        FailedIo or CannotOpen when Directory.Exists(File) => new Problem(
            ProblemCode.StateNeedsAttention, what, $"{File} is a folder, and should be a database",
            "move the folder away and run the command again"),
        Full or FailedIo when Posix.FileSizeLimit() is not null => IoProblems.TooLarge(what),
        CannotOpen when InnerException is IOException fault => IoProblems.ToProblem(fault, what),
        Full => IoProblems.DiskIsFull(what, File.Length > 0 ? File : null),
        FailedIo when IsDiskFull(File) => IoProblems.DiskIsFull(what, File),
        CannotOpen when IsTooLong(File) => IoProblems.TooLong(what),
        ReadOnly or CannotOpen => IoProblems.NoRights(what, "the database cannot be opened for writing"),
        Busy => new Problem(ProblemCode.Locked, what, "another program is writing to the database", "try again"),
        Corrupt or NotADatabase when HasFailedToRead(File) => new Problem(
            ProblemCode.StateNeedsAttention, what, $"the disk fails to read {File}",
            "check the disk; nothing was deleted, since the data may be good"),
        Corrupt or NotADatabase => new Problem(
            ProblemCode.StateNeedsAttention, what, WhichIsDamaged(what), DatabaseRepair.AdviceFor(Path.GetFileName(File))),
        _ => new Problem(ProblemCode.StateNeedsAttention, what, Message),
    };

    /// <summary>Whether a path, or a name in it, is longer than Linux takes (limits.h).</summary>
    private static bool IsTooLong(string path)
    {
        const int LongestPath = 4095, LongestName = 255;
        return Encoding.UTF8.GetByteCount(path) > LongestPath
            || path.Split('/').Any(name => Encoding.UTF8.GetByteCount(name) > LongestName);
    }

    /// <summary>What keeps the file from being opened, where it is no matter of rights.</summary>
    private static IOException? OpenFault(string path)
    {
        if (path.Length == 0) return null;
        try
        {
            using var file = System.IO.File.OpenHandle(path);
            return null;
        }
        catch (IOException fault)
        {
            return fault is FileNotFoundException or DirectoryNotFoundException ? null : fault;
        }
        catch (UnauthorizedAccessException)
        {
            return null;
        }
    }

    private string WhichIsDamaged(string what) =>
        File.Length > 0 && !what.Contains(File, StringComparison.Ordinal)
            ? $"the database {File} is damaged"
            : "the database is damaged";

    /// <summary>Whether no file can be made beside a database: SQLite only says that it cannot open one.</summary>
    private static bool HasNoInode(string file) =>
        file.Length > 0 && Posix.FreeInodes(Path.GetDirectoryName(file)!) is < FewInodes;

    /// <summary>
    /// Whether there is no room left for as much as SQLite takes at a time; it does not say so where it shares memory through a
    /// file.
    /// </summary>
    private static bool IsDiskFull(string file)
    {
        const long atATime = 64 << 10;
        try
        {
            return file.Length > 0 && new DriveInfo(Path.GetDirectoryName(file)!).AvailableFreeSpace < atATime;
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException or ArgumentException)
        {
            return false;
        }
    }
}
