using Microsoft.Data.Sqlite;

namespace AmberCrate.Engine.Records;

/// <summary>A small skin over one SQLite connection: statements with values in order, and nothing else.</summary>
public sealed class Database : IDisposable
{
    private readonly SqliteConnection _connection;

    private Database(SqliteConnection connection) => _connection = connection;

    /// <summary>Opens a database file, or one in memory where <paramref name="path"/> is null.</summary>
    public static Database Open(string? path)
    {
        if (path is not null) Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        var connection = new SqliteConnection(new SqliteConnectionStringBuilder
        {
            DataSource = path ?? ":memory:",
            Pooling = false,
            DefaultTimeout = 10,
        }.ToString());
        try
        {
            connection.Open();
            return new Database(connection);
        }
        catch
        {
            connection.Dispose();
            throw;
        }
    }

    /// <summary>Runs a statement and tells how many rows it changed.</summary>
    public int Run(string sql, params ReadOnlySpan<object?> values)
    {
        using var command = Prepare(sql, values);
        return command.ExecuteNonQuery();
    }

    /// <summary>Runs a query and reads every row.</summary>
    public List<T> Query<T>(string sql, Func<SqliteDataReader, T> read, params ReadOnlySpan<object?> values)
    {
        using var command = Prepare(sql, values);
        using var reader = command.ExecuteReader();
        var rows = new List<T>();
        while (reader.Read()) rows.Add(read(reader));
        return rows;
    }

    /// <summary>Runs a query for one number; zero where there is no row.</summary>
    public long Number(string sql, params ReadOnlySpan<object?> values)
    {
        using var command = Prepare(sql, values);
        return command.ExecuteScalar() is long number ? number : 0;
    }

    /// <summary>Prepares a statement that will be run many times, with this many values.</summary>
    public Statement Prepare(string sql, int count)
    {
        var command = Prepare(sql, new object?[count]);
        command.Prepare();
        return new Statement(command);
    }

    /// <summary>Begins a transaction that takes the write lock at once; not committed, it is rolled back.</summary>
    public SqliteTransaction Begin() => _connection.BeginTransaction(deferred: false);

    /// <inheritdoc/>
    public void Dispose() => _connection.Dispose();

    private SqliteCommand Prepare(string sql, ReadOnlySpan<object?> values)
    {
        var command = _connection.CreateCommand();
#pragma warning disable CA2100 // Every statement is a constant of this program; values are bound.
        command.CommandText = sql;
#pragma warning restore CA2100
        for (var at = 0; at < values.Length; at++) command.Parameters.AddWithValue($"${at + 1}", values[at] ?? DBNull.Value);
        return command;
    }
}
