namespace AmberCrate.Cli.Tables;

/// <summary>What a column holds.</summary>
internal enum ColumnKind
{
    /// <summary>What tells rows apart, such as an id.</summary>
    Key,

    /// <summary>A word or a version, which is never broken.</summary>
    Fact,

    /// <summary>A size, a count or a time: never broken, and set to the right so that it can be compared.</summary>
    Number,

    /// <summary>Words that may go on over several lines.</summary>
    Text,
}
