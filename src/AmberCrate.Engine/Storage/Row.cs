using System.Runtime.InteropServices;
using SQLitePCL;

namespace AmberCrate.Engine.Storage;

/// <summary>The row of a query that is just being read.</summary>
[StructLayout(LayoutKind.Auto)]
public readonly struct Row
{
    private readonly sqlite3_stmt _statement;

    internal Row(sqlite3_stmt statement) => _statement = statement;

    /// <summary>A text.</summary>
    public string Text(int column) => raw.sqlite3_column_text(_statement, column).utf8_to_string();

    /// <summary>A text as its bytes in UTF-8, which are there until the next row is read.</summary>
    public ReadOnlySpan<byte> Utf8(int column) => raw.sqlite3_column_blob(_statement, column);

    /// <summary>A number.</summary>
    public long Number(int column) => raw.sqlite3_column_int64(_statement, column);

    /// <summary>A number that is known to be small.</summary>
    public int Small(int column) => raw.sqlite3_column_int(_statement, column);

    /// <summary>Whether a number is not zero.</summary>
    public bool Truth(int column) => raw.sqlite3_column_int(_statement, column) != 0;

    /// <summary>Bytes.</summary>
    public byte[] Bytes(int column) => raw.sqlite3_column_blob(_statement, column).ToArray();

    /// <summary>Whether there is no value.</summary>
    public bool IsNull(int column) => raw.sqlite3_column_type(_statement, column) == raw.SQLITE_NULL;
}
