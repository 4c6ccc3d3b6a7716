using Microsoft.Data.Sqlite;

namespace AmberCrate.Engine.Records;

/// <summary>A statement that is compiled once and run many times.</summary>
public sealed class Statement : IDisposable
{
    private readonly SqliteCommand _command;

    internal Statement(SqliteCommand command) => _command = command;

    /// <summary>Runs it with these values.</summary>
    public void Run(params ReadOnlySpan<object?> values)
    {
        for (var at = 0; at < values.Length; at++) _command.Parameters[at].Value = values[at] ?? DBNull.Value;
        _command.ExecuteNonQuery();
    }

    /// <summary>Runs a query for one number; null where there is none.</summary>
    public long? Number(params ReadOnlySpan<object?> values)
    {
        for (var at = 0; at < values.Length; at++) _command.Parameters[at].Value = values[at] ?? DBNull.Value;
        return _command.ExecuteScalar() as long?;
    }

    /// <inheritdoc/>
    public void Dispose() => _command.Dispose();
}
