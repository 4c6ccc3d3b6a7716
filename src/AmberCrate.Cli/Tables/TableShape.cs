namespace AmberCrate.Cli.Tables;

/// <summary>The columns of a table.</summary>
/// <param name="Columns">The columns, from left to right.</param>
internal sealed record TableShape(IReadOnlyList<Column> Columns)
{
    /// <summary>Makes a shape.</summary>
    public TableShape(params Column[] columns)
        : this((IReadOnlyList<Column>)columns)
    {
    }

    /// <summary>Whether the rows are facts and each column but the first is an app, with the same room for each.</summary>
    public bool IsSideBySide { get; init; }
}
