namespace AmberCrate.Cli.Tables;

/// <summary>A column of a table, and what becomes of it on a narrow terminal.</summary>
/// <param name="Heading">Its heading.</param>
/// <param name="Kind">What it holds.</param>
/// <param name="Leaves">
/// When it leaves the line if there is too little room: the column with the highest number goes first. 0 stays.
/// </param>
internal sealed record Column(string Heading, ColumnKind Kind, int Leaves)
{
    /// <summary>
    /// Whether it is left out when it leaves the line. Otherwise, and with --verbose, it goes to a line below its row.
    /// </summary>
    public bool IsLeftOut { get; init; }

    /// <summary>Whether a terminal shows its value only in the first of several rows that have the same.</summary>
    public bool IsSaidOnce { get; init; }

    /// <summary>The column that tells rows apart. It always stays.</summary>
    public static Column Key(string heading) => new(heading, ColumnKind.Key, 0);

    /// <summary>A word or a version, which is never broken.</summary>
    public static Column Fact(string heading, int leaves = 0) => new(heading, ColumnKind.Fact, leaves);

    /// <summary>A size, a count or a time, set to the right.</summary>
    public static Column Number(string heading, int leaves = 0) => new(heading, ColumnKind.Number, leaves);

    /// <summary>Words that may go on over several lines.</summary>
    public static Column Text(string heading, int leaves = 1) => new(heading, ColumnKind.Text, leaves);
}
