using System.Runtime.InteropServices;
using AmberCrate.Engine.Running;
using SQLitePCL;

namespace AmberCrate.Engine.Records;

/// <summary>
/// A small skin over one SQLite connection: statements with values in order, and nothing else. It speaks to SQLite without a
/// layer between, since such a layer took a quarter of the time of a short command. Used by one thread at a time.
/// </summary>
public sealed partial class Database : IDisposable
{
    private const int PatienceInMilliseconds = 10_000;
    private const int OpenFlags = raw.SQLITE_OPEN_READWRITE | raw.SQLITE_OPEN_CREATE | raw.SQLITE_OPEN_NOMUTEX | raw.SQLITE_OPEN_URI;

    private readonly sqlite3 _connection;

    static Database()
    {
        // Nobody asks how much memory SQLite has used; keeping count costs a lock for every piece of it.
        Batteries_V2.Init();
        _ = raw.sqlite3_config(raw.SQLITE_CONFIG_MEMSTATUS, 0);
    }

    private Database(sqlite3 connection) => _connection = connection;

    /// <summary>Opens a database file, or one in memory where <paramref name="path"/> is null.</summary>
    /// <exception cref="DatabaseException">It cannot be opened.</exception>
    /// <param name="path">The file.</param>
    /// <param name="forOthersToo">
    /// Whether it is read by people who may not write beside it. The files of its write-ahead log then stay there when it is closed: SQLite
    /// cannot read a database of this kind without them, and those people could not make them.
    /// </param>
    public static Database Open(string? path, bool forOthersToo = false)
    {
        if (path is not null) Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        var code = raw.sqlite3_open_v2(path is null ? ":memory:" : IsFixed(path) ? $"file:{Uri.EscapeDataString(path)}?immutable=1" : path, out var connection, OpenFlags, null);
        if (code != raw.SQLITE_OK)
        {
            var fault = new DatabaseException(raw.sqlite3_errstr(code).utf8_to_string(), code);
            connection?.Dispose();
            throw fault;
        }

        raw.sqlite3_busy_timeout(connection, PatienceInMilliseconds);
        if (forOthersToo) KeepLog(connection);
        return new Database(connection);
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

    /// <summary>Begins a transaction that takes the write lock at once; not committed, it is rolled back.</summary>
    /// <exception cref="DatabaseException">Another program holds the lock for too long.</exception>
    public Transaction Begin()
    {
        Run("BEGIN IMMEDIATE");
        return new Transaction(this);
    }

    /// <inheritdoc/>
    public void Dispose() => _connection.Dispose();

    /// <summary>Whether nothing has been begun that is neither committed nor rolled back; SQLite itself rolls back on some failures.</summary>
    internal bool IsIdle => raw.sqlite3_get_autocommit(_connection) != 0;

    /// <summary>
    /// Whether a database lies where nothing can be written beside it and has no log there: then nobody is changing it, and SQLite,
    /// which would make such files even for reading, is told so.
    /// </summary>
    private static bool IsFixed(string path) => File.Exists(path) && !File.Exists($"{path}-wal") && !Posix.CanWrite(Path.GetDirectoryName(path)!);

    /// <summary>sqlite3_file_control with SQLITE_FCNTL_PERSIST_WAL, which the library between does not offer.</summary>
    private static unsafe void KeepLog(sqlite3 connection)
    {
        const int PersistLog = 10;
        var keep = 1;
        _ = ControlCall(connection.DangerousGetHandle(), "main", PersistLog, &keep);
    }

    [LibraryImport("e_sqlite3", EntryPoint = "sqlite3_file_control", StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.AssemblyDirectory | DllImportSearchPath.System32)]
    private static unsafe partial int ControlCall(nint connection, string database, int operation, void* argument);

    /// <summary>The places for values are written $1, $2 … in this program, and ?1, ?2 … in SQLite, where a dollar begins a name.</summary>
    private Statement Compile(string sql, out string rest)
    {
        var code = raw.sqlite3_prepare_v2(_connection, sql.Replace('$', '?'), out var statement, out rest);
        return code == raw.SQLITE_OK ? new Statement(_connection, statement) : throw DatabaseException.Of(_connection, code);
    }
}
