using SQLitePCL;

namespace AmberCrate.Engine.Storage;

/// <summary>A statement that is compiled once and may be run many times.</summary>
public sealed class Statement : IDisposable
{
    private const int TimeoutInMilliseconds = 5_000;
    private const int PauseInMilliseconds = 5;

    private readonly sqlite3 _connection;
    private readonly sqlite3_stmt _statement;
    private readonly int _places;

    internal Statement(sqlite3 connection, sqlite3_stmt statement) =>
        (_connection, _statement, _places) = (connection, statement, raw.sqlite3_bind_parameter_count(statement));

    /// <summary>Runs it with these values; those without a parameter are left out.</summary>
    /// <exception cref="DatabaseException">It cannot be done.</exception>
    public void Run(params ReadOnlySpan<object?> values)
    {
        Bind(values);
        while (Step())
        {
            // PRAGMA statements return rows; discard them.
        }
    }

    /// <summary>Runs a query and reads every row.</summary>
    /// <exception cref="DatabaseException">It cannot be done.</exception>
    public List<T> Query<T>(Func<Row, T> read, params ReadOnlySpan<object?> values)
    {
        var rows = new List<T>();
        Each(row => rows.Add(read(row)), values);
        return rows;
    }

    /// <summary>Runs a query and looks at every row.</summary>
    /// <exception cref="DatabaseException">It cannot be done.</exception>
    public void Each(Action<Row> see, params ReadOnlySpan<object?> values)
    {
        Bind(values);
        while (Step()) see(new Row(_statement));
    }

    /// <summary>Runs a query for one number; null where there is none.</summary>
    /// <exception cref="DatabaseException">It cannot be done.</exception>
    public long? Number(params ReadOnlySpan<object?> values)
    {
        Bind(values);
        var number = Step() && raw.sqlite3_column_type(_statement, 0) == raw.SQLITE_INTEGER
            ? raw.sqlite3_column_int64(_statement, 0)
            : (long?)null;
        raw.sqlite3_reset(_statement);
        return number;
    }

    /// <inheritdoc/>
    public void Dispose() => _statement?.Dispose();

    private void Bind(ReadOnlySpan<object?> values)
    {
        for (var at = 0; at < values.Length && at < _places; at++)
        {
            var code = values[at] switch
            {
                null => raw.sqlite3_bind_null(_statement, at + 1),
                string text => raw.sqlite3_bind_text(_statement, at + 1, text),
                byte[] bytes => raw.sqlite3_bind_blob(_statement, at + 1, bytes),
                long number => raw.sqlite3_bind_int64(_statement, at + 1, number),
                int number => raw.sqlite3_bind_int64(_statement, at + 1, number),
                bool truth => raw.sqlite3_bind_int64(_statement, at + 1, truth ? 1 : 0),
                var other => throw new ArgumentException($"a value of type {other.GetType()} cannot be stored", nameof(values)),
            };
            if (code != raw.SQLITE_OK) throw DatabaseException.FromResult(_connection, code);
        }
    }

    /// <summary>
    /// Whether a reader that may not write has come just when a writer had begun a log and not yet noted how far it
    /// can be read (SQLITE_READONLY_RECOVERY, SQLITE_READONLY_CANTLOCK and SQLITE_READONLY_CANTINIT).
    /// </summary>
    private bool IsForLater(int code) =>
        (code & 0xff) == raw.SQLITE_READONLY && raw.sqlite3_extended_errcode(_connection) is 264 or 520 or 1288;

    /// <summary>Goes to the next row; after the last one, and on a failure, the statement is ready to be run again.</summary>
    private bool Step()
    {
        var code = raw.sqlite3_step(_statement);
        for (var waited = 0; IsForLater(code) && waited < TimeoutInMilliseconds; waited += PauseInMilliseconds)
        {
            raw.sqlite3_reset(_statement);
            Thread.Sleep(PauseInMilliseconds);
            code = raw.sqlite3_step(_statement);
        }

        if (code == raw.SQLITE_ROW) return true;
        var fault = code == raw.SQLITE_DONE ? null : DatabaseException.FromResult(_connection, code);
        raw.sqlite3_reset(_statement);
        return fault is null ? false : throw fault;
    }
}
