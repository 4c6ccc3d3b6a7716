namespace AmberCrate.Core.Searching;

/// <summary>One way to read what was typed: the words, as they were or with two of them as one.</summary>
/// <param name="Words">The words, folded.</param>
public sealed record SearchReading(IReadOnlyList<string> Words)
{
    /// <summary>The words run together.</summary>
    public string Squashed { get; } = string.Concat(Words);
}
