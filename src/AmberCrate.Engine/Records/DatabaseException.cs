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

    /// <summary>The database; empty where it is not in a file, or could not be opened.</summary>
    public string File { get; private init; } = "";

    internal static DatabaseException Of(sqlite3 connection, int code) =>
        new($"SQLite: {raw.sqlite3_errmsg(connection).utf8_to_string()}", code & 0xff) { File = raw.sqlite3_db_filename(connection, "main").utf8_to_string() ?? "" };
}
