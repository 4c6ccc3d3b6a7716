namespace AmberCrate.Core.Searching;

/// <summary>
/// What a person looks for, folded into words. The last word may be the beginning of one; the others are whole, unless the query
/// is loose.
/// </summary>
public sealed record SearchQuery
{
    private const int MostJoined = 8;

    private SearchQuery(IReadOnlyList<string> words) => Readings = [new SearchReading(words)];

    /// <summary>The words, folded.</summary>
    public IReadOnlyList<string> Words => Readings[0].Words;

    /// <summary>The ways to read it, as it was typed first. An app matches that matches one of them.</summary>
    public IReadOnlyList<SearchReading> Readings { get; private init; }

    /// <summary>Whether every word may be the beginning of one.</summary>
    public bool IsLoose { get; private init; }

    /// <summary>How many letters of the query had to be taken for wrong; 0 for what was typed.</summary>
    public int Distance { get; private init; }

    /// <summary>
    /// Makes a query of what a person typed; what is beyond <see cref="SearchText.MaxQuery"/> characters is left out.
    /// </summary>
    public static SearchQuery Of(IEnumerable<string> typed)
    {
        var text = string.Join(' ', typed);
        var folded = SearchText.Fold(text.Length > SearchText.MaxQuery ? text[..SearchText.MaxQuery] : text);
        return new SearchQuery(folded.Length == 0 ? [] : folded.Split(' '));
    }

    /// <summary>
    /// The same query, which may also be read with two neighbouring words as one, in either order: "teller seat map" for Seatmap
    /// Teller.
    /// </summary>
    /// <param name="isKnown">Tells whether a word begins with this. Words that none begins with are not tried.</param>
    public SearchQuery Joined(Func<string, bool> isKnown)
    {
        if (Words.Count is < 2 or > MostJoined) return this;
        var readings = new List<SearchReading> { Readings[0] };
        for (var at = 0; at + 1 < Words.Count; at++)
        {
            foreach (var joined in (string[])[Words[at] + Words[at + 1], Words[at + 1] + Words[at]])
            {
                if (isKnown(joined)) readings.Add(new SearchReading([.. Words.Take(at), joined, .. Words.Skip(at + 2)]));
            }
        }

        return this with { Readings = readings };
    }

    /// <summary>The same query with every word taken for the beginning of one.</summary>
    public SearchQuery Loosened() => this with { IsLoose = true };

    /// <summary>Whether a word of a reading stands for the words that begin with it.</summary>
    public bool IsPrefix(SearchReading reading, int word) => IsLoose || word == reading.Words.Count - 1;

    /// <summary>
    /// Queries that may have been meant, the likeliest first: some words are replaced by words that differ in a letter or two.
    /// </summary>
    /// <param name="meant">Tells for a word what it may stand for, with the distance; itself at distance 0 where it may be
    /// right.</param>
    /// <param name="most">How many queries at most.</param>
    public IReadOnlyList<SearchQuery> Guesses(Func<string, IReadOnlyList<(string Word, int Distance)>> meant, int most)
    {
        IEnumerable<(IReadOnlyList<string> Words, int Distance)> queries = [([], 0)];
        foreach (var word in Words)
        {
            var choices = meant(word);
            queries = queries.SelectMany(query =>
                choices.Select(
                    choice => ((IReadOnlyList<string>)[.. query.Words, choice.Word], query.Distance + choice.Distance)))
                .OrderBy(query => query.Item2).Take(most + 1);
        }

        return [.. queries.Where(query => query.Distance > 0)
            .Select(query => new SearchQuery(query.Words) { IsLoose = true, Distance = query.Distance })
            .Take(most)];
    }
}
