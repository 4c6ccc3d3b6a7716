namespace AmberCrate.Core.Searching;

/// <summary>
/// One way to read what was typed: the words, as they were, without fillers, with two of them as one, or with some of them read
/// as a purpose.
/// </summary>
/// <param name="Words">The words, folded.</param>
/// <param name="Purpose">What the words ask for that are not among <paramref name="Words"/>; null where all are.</param>
public sealed record SearchReading(IReadOnlyList<string> Words, Purpose? Purpose = null)
{
    /// <summary>Whether two words were treated as one.</summary>
    public bool IsJoined { get; init; }

    /// <summary>The words run together; empty where a purpose means some.</summary>
    public string Squashed { get; } = Purpose is null ? string.Concat(Words) : "";
}
