using System.Runtime.InteropServices;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;
using SQLitePCL;

namespace AmberCrate.Engine.Storage;

/// <summary>
/// A small skin over one SQLite connection: statements with values in order, and nothing else. It speaks to SQLite without a
/// layer between, since such a layer took a quarter of the time of a short command. Used by one thread at a time.
/// </summary>
public sealed partial class Database : IDisposable
{
    private const int TimeoutInMilliseconds = 10_000;
    private const int ToChange = raw.SQLITE_OPEN_READWRITE | raw.SQLITE_OPEN_CREATE | raw.SQLITE_OPEN_NOMUTEX;
    private const int ToRead = raw.SQLITE_OPEN_READONLY | raw.SQLITE_OPEN_URI | raw.SQLITE_OPEN_NOMUTEX;

    private readonly sqlite3 _connection;

    static Database()
    {
        // Nobody asks how much memory SQLite has used; keeping count costs a lock for every piece of it. And a short command
        // reads
        // a few pages: room for twenty at once, which is usual, is 90 KB that the system has to find for each database.
        const int PageCache = 7;
        Batteries_V2.Init();
        _ = raw.sqlite3_config(raw.SQLITE_CONFIG_MEMSTATUS, 0);
        _ = ConfigureCall(PageCache, 0, 0, 1);
    }

    /// <summary>The file of a database that others read a copy of; null for any other.</summary>
    private string? _private;

    private Database(sqlite3 connection) => _connection = connection;

    /// <summary>Opens a database file to read and change it, or one in memory where <paramref name="path"/> is null.</summary>
    /// <remarks>
    /// The files of its write-ahead log stay, empty, when it is closed. SQLite cannot read a database of this kind without them,
    /// and people who may only read it could not make them; nor need every command make four files and take them away again.
    /// </remarks>
    /// <param name="path">The file.</param>
    /// <param name="isPrivate">Whether only its owner may open it; all others read a copy, which is written when it is
    /// closed.</param>
    /// <exception cref="DatabaseException">It cannot be opened.</exception>
    public static Database Open(string? path, bool isPrivate = false)
    {
        if (path is null) return new Database(Connect(":memory:", ToChange, ""));
        AtomicFile.MakeFolder(Path.GetDirectoryName(path)!);
        RequireWithItsLog(path);
        if (isPrivate) PublicCopy.CloseToOthers(path);
        var database = new Database(Kept(Connect(path, ToChange, path))) { _private = isPrivate ? path : null };
        try
        {
            // The log is cut to nothing.
            database.Run("PRAGMA journal_size_limit=0");
            return database;
        }
        catch
        {
            database.Dispose();
            throw;
        }
    }

    /// <summary>
    /// Opens a database file that is there only to read it. Where its log is empty, SQLite is opened so that it may not
    /// write to what
    /// readers share, so that it creates nothing; where there is no log and none could be made, that no process is
    /// changing the file.
    /// </summary>
    /// <remarks>
    /// As long as it is open, the same process cannot change the file by another connection: SQLite lets all of a process share
    /// what they share with others.
    /// </remarks>
    /// <param name="path">The file.</param>
    /// <exception cref="DatabaseException">It cannot be opened.</exception>
    public static Database OpenToRead(string path)
    {
        if (PublicCopy.IsNeeded(path))
            return new Database(Connect(Address(PublicCopy.PathOf(path), "immutable"), ToRead, path));
        RequireWithItsLog(path);
        var log = new FileInfo($"{path}-wal");
        if (log.Exists && log.Length == 0 && File.Exists($"{path}-shm"))
            return new Database(Kept(Connect(Address(path, "readonly_shm"), ToRead, path)));
        return log.Exists || Posix.CanWrite(Path.GetDirectoryName(path)!)
            ? Open(path)
            : new Database(Connect(Address(path, "immutable"), ToRead, path));
    }

    /// <summary>A copy in memory, which may be changed freely.</summary>
    /// <exception cref="DatabaseException">It cannot be read.</exception>
    public Database CopyInMemory()
    {
        var copy = new Database(Connect(":memory:", ToChange, ""));
        var backup = raw.sqlite3_backup_init(copy._connection, "main", _connection, "main");
        var code = backup is null || backup.IsInvalid ? raw.SQLITE_ERROR : raw.sqlite3_backup_step(backup, -1);
        backup?.Dispose();
        if (code == raw.SQLITE_DONE) return copy;
        var fault = DatabaseException.FromResult(_connection, code);
        copy.Dispose();
        throw fault;
    }

    /// <summary>Runs statements, separated by semicolons; the values are those of each.</summary>
    /// <returns>How many rows the last one changed.</returns>
    /// <exception cref="DatabaseException">It cannot be done.</exception>
    public int Run(string sql, params ReadOnlySpan<object?> values)
    {
        for (var rest = sql; rest.Trim().Length > 0;)
        {
            using var statement = Compile(rest, out rest);
            statement.Run(values);
        }

        return raw.sqlite3_changes(_connection);
    }

    /// <summary>Runs a query and reads every row.</summary>
    /// <exception cref="DatabaseException">It cannot be done.</exception>
    public List<T> Query<T>(string sql, Func<Row, T> read, params ReadOnlySpan<object?> values)
    {
        using var statement = Prepare(sql);
        return statement.Query(read, values);
    }

    /// <summary>Runs a query and looks at every row.</summary>
    /// <exception cref="DatabaseException">It cannot be done.</exception>
    public void Each(string sql, Action<Row> see, params ReadOnlySpan<object?> values)
    {
        using var statement = Prepare(sql);
        statement.Each(see, values);
    }

    /// <summary>Runs a query for one number; zero where there is none.</summary>
    /// <exception cref="DatabaseException">It cannot be done.</exception>
    public long Number(string sql, params ReadOnlySpan<object?> values)
    {
        using var statement = Prepare(sql);
        return statement.Number(values) ?? 0;
    }

    /// <summary>Prepares a statement that will be run many times.</summary>
    /// <exception cref="DatabaseException">It is not one.</exception>
    public Statement Prepare(string sql) => Compile(sql, out _);

    /// <summary>Has the reads of a function see one state, and lock the database once instead of each time.</summary>
    public T ReadTogether<T>(Func<T> read)
    {
        Run("BEGIN");
        try
        {
            return read();
        }
        finally
        {
            // Nothing was written: how it ends makes no difference, and must not hide why the reading failed.
            raw.sqlite3_exec(_connection, "COMMIT");
        }
    }

    /// <summary>Begins a transaction that takes the write lock at once; not committed, it is rolled back.</summary>
    /// <exception cref="DatabaseException">Another program holds the lock for too long.</exception>
    public Transaction Begin()
    {
        Run("BEGIN IMMEDIATE");
        return new Transaction(this);
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        try
        {
            if (_private is { } path && (raw.sqlite3_total_changes(_connection) > 0 || PublicCopy.IsOld(path)))
            {
                Run("PRAGMA wal_checkpoint(TRUNCATE)");
                PublicCopy.Write(path);
            }
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            // Others read an older copy until the next command that changes something: it finds the copy to be old.
        }

        _connection.Dispose();
    }

    /// <summary>
    /// Whether nothing has been begun that is neither committed nor rolled back; SQLite itself rolls back on some failures.
    /// </summary>
    internal bool IsIdle => raw.sqlite3_get_autocommit(_connection) != 0;

    /// <summary>
    /// Lets readers that may not write know how much of the log they can rely on. SQLite notes that for all users when a
    /// connection reads, and the first one to write to an empty log has not read from it yet.
    /// </summary>
    internal void NoteForReaders()
    {
        try
        {
            Number("SELECT 1 FROM sqlite_schema LIMIT 1");
        }
        catch (DatabaseException)
        {
            // What has been committed stays so; readers wait a little longer.
        }
    }

    /// <summary>
    /// A database that is empty beside a log that is not has been lost: SQLite would take it for a new one.
    /// </summary>
    /// <param name="path">The file.</param>
    /// <exception cref="DatabaseException">It is so.</exception>
    internal static void RequireWithItsLog(string path)
    {
        var (file, log) = (new FileInfo(path), new FileInfo($"{path}-wal"));
        if (log.Exists && log.Length > 0 && (!file.Exists || file.Length == 0))
            throw DatabaseException.Damaged(path, new IOException("the file is empty or missing, and its log is not"));
    }

    private static sqlite3 Connect(string address, int flags, string file)
    {
        var code = raw.sqlite3_open_v2(address, out var connection, flags, null);
        if (code != raw.SQLITE_OK)
        {
            var fault = DatabaseException.NotOpened(file, raw.sqlite3_errstr(code).utf8_to_string(), code);
            connection?.Dispose();
            throw fault;
        }

        raw.sqlite3_busy_timeout(connection, TimeoutInMilliseconds);
        return connection;
    }

    /// <summary>A file as SQLite's own form of an address, with one of its settings.</summary>
    private static string Address(string path, string setting) =>
        $"file:{string.Concat(path.Select(Escaped))}?{setting}=1";

    private static string Escaped(char letter) => letter switch
    {
        '%' => "%25",
        '?' => "%3f",
        '#' => "%23",
        _ => letter.ToString(),
    };

    /// <summary>sqlite3_file_control with SQLITE_FCNTL_PERSIST_WAL, which the library between does not offer.</summary>
    private static unsafe sqlite3 Kept(sqlite3 connection)
    {
        const int PersistLog = 10;
        var keep = 1;
        _ = ControlCall(connection.DangerousGetHandle(), "main", PersistLog, &keep);
        return connection;
    }

    [LibraryImport("e_sqlite3", EntryPoint = "sqlite3_file_control", StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.AssemblyDirectory | DllImportSearchPath.System32)]
    private static unsafe partial int ControlCall(nint connection, string database, int operation, void* argument);

    /// <summary>
    /// sqlite3_config for SQLITE_CONFIG_PAGECACHE, also: where in memory, bytes of a page, and how many pages at first.
    /// </summary>
    [LibraryImport("e_sqlite3", EntryPoint = "sqlite3_config")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.AssemblyDirectory | DllImportSearchPath.System32)]
    private static partial int ConfigureCall(int option, nint memory, int size, int count);

    /// <summary>
    /// The places for values are written $1, $2 … in this program, and ?1, ?2 … in SQLite, where a dollar begins a name.
    /// </summary>
    private Statement Compile(string sql, out string rest)
    {
        var code = raw.sqlite3_prepare_v2(_connection, sql.Replace('$', '?'), out var statement, out rest);
        return code == raw.SQLITE_OK
            ? new Statement(_connection, statement) : throw DatabaseException.FromResult(_connection, code);
    }
}
