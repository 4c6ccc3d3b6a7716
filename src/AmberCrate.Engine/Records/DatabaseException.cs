using SQLitePCL;

namespace AmberCrate.Engine.Records;

/// <summary>SQLite could not do what was asked of it.</summary>
public sealed class DatabaseException : Exception
{
    /// <summary>Makes one.</summary>
    /// <param name="message">SQLite's own words.</param>
    /// <param name="code">SQLite's primary result code.</param>
    public DatabaseException(string message, int code)
        : base(message) => Code = code;

    /// <summary>SQLite's primary result code.</summary>
    public int Code { get; }

    internal static DatabaseException Of(sqlite3 connection, int code) => new($"SQLite: {raw.sqlite3_errmsg(connection).utf8_to_string()}", code & 0xff);
}
