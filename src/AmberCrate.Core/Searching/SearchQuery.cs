namespace AmberCrate.Core.Searching;

/// <summary>What a person looks for, folded into words.</summary>
public sealed record SearchQuery
{
    private SearchQuery(string folded)
    {
        Words = folded.Length == 0 ? [] : folded.Split(' ');
        Squashed = string.Concat(Words);
    }

    /// <summary>The words, folded.</summary>
    public IReadOnlyList<string> Words { get; }

    /// <summary>The words run together.</summary>
    public string Squashed { get; }

    /// <summary>Makes a query of what a person typed; words and parts beyond <see cref="SearchText.MaxQuery"/> are left out.</summary>
    public static SearchQuery Of(IEnumerable<string> typed)
    {
        var text = string.Join(' ', typed);
        return new SearchQuery(SearchText.Fold(text.Length > SearchText.MaxQuery ? text[..SearchText.MaxQuery] : text));
    }
}
