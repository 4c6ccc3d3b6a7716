namespace AmberCrate.Core.Searching;

/// <summary>What a person looks for, folded into words. The last word may be the beginning of one; the others are whole, unless the query is loose.</summary>
public sealed record SearchQuery
{
    private SearchQuery(IReadOnlyList<string> words) => (Words, Squashed) = (words, string.Concat(words));

    /// <summary>The words, folded.</summary>
    public IReadOnlyList<string> Words { get; }

    /// <summary>The words run together.</summary>
    public string Squashed { get; }

    /// <summary>Whether every word may be the beginning of one.</summary>
    public bool IsLoose { get; private init; }

    /// <summary>How many letters of the query had to be taken for wrong; 0 for what was typed.</summary>
    public int Distance { get; private init; }

    /// <summary>Makes a query of what a person typed; what is beyond <see cref="SearchText.MaxQuery"/> characters is left out.</summary>
    public static SearchQuery Of(IEnumerable<string> typed)
    {
        var text = string.Join(' ', typed);
        var folded = SearchText.Fold(text.Length > SearchText.MaxQuery ? text[..SearchText.MaxQuery] : text);
        return new SearchQuery(folded.Length == 0 ? [] : folded.Split(' '));
    }

    /// <summary>The same query with every word taken for the beginning of one.</summary>
    public SearchQuery Loosened() => this with { IsLoose = true };

    /// <summary>Whether a word of the query stands for the words that begin with it.</summary>
    public bool IsPrefix(int word) => IsLoose || word == Words.Count - 1;

    /// <summary>
    /// Queries that may have been meant, the likeliest first: words that nothing begins with are replaced by words that
    /// differ in a letter or two.
    /// </summary>
    /// <param name="meant">Tells for a word what it may stand for, with the distance; itself at distance 0 where it is known.</param>
    /// <param name="most">How many queries at most.</param>
    public IReadOnlyList<SearchQuery> Guesses(Func<string, IReadOnlyList<(string Word, int Distance)>> meant, int most)
    {
        IEnumerable<(IReadOnlyList<string> Words, int Distance)> queries = [([], 0)];
        foreach (var word in Words)
        {
            var choices = meant(word);
            queries = queries.SelectMany(query => choices.Select(choice => ((IReadOnlyList<string>)[.. query.Words, choice.Word], query.Distance + choice.Distance)))
                .OrderBy(query => query.Item2).Take(most);
        }

        return [.. queries.Where(query => query.Distance > 0).Select(query => new SearchQuery(query.Words) { IsLoose = true, Distance = query.Distance })];
    }
}
