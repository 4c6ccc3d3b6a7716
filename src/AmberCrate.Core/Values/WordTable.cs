namespace AmberCrate.Core.Values;

/// <summary>
/// The words for the values of an enum: in files, records, logs and JSON. The name that a value has in the code is never written,
/// so that it may change. Every value has one word, and every word one value.
/// </summary>
/// <param name="pairs">A word for each value, in the order they are listed to people.</param>
public sealed class WordTable<T>(params (T Value, string Word)[] pairs)
    where T : struct, Enum
{
    /// <summary>All values with their words, in the order of the table.</summary>
    public IReadOnlyList<(T Value, string Word)> Pairs => pairs;

    /// <summary>What is expected where none of the words is found.</summary>
    public string Expected => $"one of {string.Join(", ", pairs.Select(pair => pair.Word))}";

    /// <summary>The word for a value.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The table has none.</exception>
    public string WordOf(T value)
    {
        foreach (var pair in pairs)
        {
            if (EqualityComparer<T>.Default.Equals(pair.Value, value)) return pair.Word;
        }

        throw new ArgumentOutOfRangeException(nameof(value), value, "the table has no word for it");
    }

    /// <summary>The value of a word; false where it is none of the table's.</summary>
    public bool TryRead(string word, out T value)
    {
        foreach (var pair in pairs)
        {
            value = pair.Value;
            if (pair.Word == word) return true;
        }

        value = default;
        return false;
    }

    /// <summary>The value of a word.</summary>
    /// <exception cref="MalformedException">It is none of the table's.</exception>
    public T Read(string word) =>
        TryRead(word, out var value) ? value : throw new MalformedException($"expected {Expected}, found \"{word}\"");
}
