namespace AmberCrate.Core.Formats;

/// <summary>The values of one table as they are read: one for each key, null where it is missing.</summary>
/// <param name="count">How many keys the table has.</param>
internal readonly struct KeyValues(int count)
{
    private readonly object?[] _values = new object?[count];

    /// <summary>The value of the key at a place.</summary>
    public object? this[int place]
    {
        get => _values[place];
        set => _values[place] = value;
    }
}
