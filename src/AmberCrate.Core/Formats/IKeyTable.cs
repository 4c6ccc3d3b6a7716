namespace AmberCrate.Core.Formats;

/// <summary>What the documentation tells of a table.</summary>
internal interface IKeyTable
{
    /// <summary>Its keys, in the order in which they are written.</summary>
    IReadOnlyList<IKey> Keys { get; }
}
