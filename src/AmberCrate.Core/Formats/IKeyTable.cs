namespace AmberCrate.Core.Formats;

/// <summary>The documentation of a table.</summary>
internal interface IKeyTable
{
    /// <summary>Its keys, in the order they are written.</summary>
    IReadOnlyList<IKey> Keys { get; }
}
