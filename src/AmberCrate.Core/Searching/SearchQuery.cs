namespace AmberCrate.Core.Searching;

/// <summary>
/// What a user looks for, folded into words. The last word may be the beginning of one; the others are whole, unless the query
/// is loose.
/// </summary>
public sealed record SearchQuery
{
    private const int MostJoined = 8, ShortestJoined = 4, MostWords = 12;
    private static readonly WordFacts NothingKnown = new([], 1);

    private SearchQuery(IReadOnlyList<string> words) => Readings = [new SearchReading(words)];

    /// <summary>The words, folded.</summary>
    public IReadOnlyList<string> Words => Readings[0].Words;

    /// <summary>The ways to read it, as it was typed first. An app matches that matches one of them.</summary>
    public IReadOnlyList<SearchReading> Readings { get; private init; }

    /// <summary>Whether every word may be the beginning of one.</summary>
    public bool IsLoose { get; private init; }

    /// <summary>How many letters of the query had to count as wrong; 0 for what was typed.</summary>
    public int Distance { get; private init; }

    /// <summary>How many of the wrong letters are no slip of the fingers.</summary>
    public int Doubts { get; private init; }

    /// <summary>How many words of a reading may be found nowhere in an app.</summary>
    public int MostMissing { get; private init; }

    /// <summary>The words that were typed as the ending of a file, such as <c>.svg</c>.</summary>
    public IReadOnlySet<string> Endings { get; private init; } = new HashSet<string>();

    private IReadOnlyDictionary<string, WordFacts> Facts { get; init; } = new Dictionary<string, WordFacts>();

    /// <summary>
    /// Makes a query of what a user typed; what is beyond <see cref="SearchText.MaxQuery"/> characters is left out.
    /// </summary>
    public static SearchQuery Parse(IEnumerable<string> typed)
    {
        var text = string.Join(' ', typed);
        if (text.Length > SearchText.MaxQuery) text = text[..SearchText.MaxQuery];
        var folded = SearchText.Fold(text);
        return new SearchQuery(folded.Length == 0 ? [] : folded.Split(' ')) { Endings = EndingsIn(text) };
    }

    /// <summary>
    /// The same query, which may also be read with two neighbouring words as one, in either order: "teller seat map" for Seatmap
    /// Teller.
    /// </summary>
    /// <param name="isKnown">Says whether a word begins with this. Words that none begins with are not tried.</param>
    public SearchQuery Joined(Func<string, bool> isKnown)
    {
        if (Words.Count is < 2 or > MostJoined) return this;
        var readings = new List<SearchReading>(Readings);
        for (var at = 0; at + 1 < Words.Count; at++)
        {
            foreach (var joined in (string[])[Words[at] + Words[at + 1], Words[at + 1] + Words[at]])
            {
                if (joined.Length < ShortestJoined || !isKnown(joined)) continue;
                readings.Add(new SearchReading([.. Words.Take(at), joined, .. Words.Skip(at + 2)]) { IsJoined = true });
            }
        }

        return this with { Readings = readings };
    }

    /// <summary>The same query, which may also be read without the words that say nothing of an app.</summary>
    /// <param name="language">The code of the user's language; null for English.</param>
    public SearchQuery WithoutFillers(string? language)
    {
        List<string> telling = [.. Words.Where(word => !FillerWords.Contains(word, language)).Distinct().Take(MostWords)];
        return telling.Count == 0 || telling.Count == Words.Count
            ? this
            : this with { Readings = [.. Readings, new SearchReading(telling)] };
    }

    /// <summary>The same query, which may also be read as asking for what an app is for.</summary>
    public SearchQuery ForPurposes(IReadOnlyList<Purpose> purposes, string? language)
    {
        const int mostPurposes = 3;
        List<SearchReading> readings =
        [
            .. PurposeList.Asked(purposes, Words).Take(mostPurposes).Select(found => new SearchReading(
                [.. Words.Where(word => !found.Taken.Contains(word) && !FillerWords.Contains(word, language)).Distinct()
                    .Take(MostWords)],
                found.Purpose)),
        ];
        return readings.Count == 0 ? this : this with { Readings = [.. Readings, .. readings] };
    }

    /// <summary>The same query, with the index's data about each of its words.</summary>
    public SearchQuery Knowing(Func<string, WordFacts> factsOf) => this with
    {
        Facts = Readings.SelectMany(reading => reading.Words).Distinct(StringComparer.Ordinal)
            .ToDictionary(word => word, factsOf, StringComparer.Ordinal),
    };

    /// <summary>The index's data about a word.</summary>
    public WordFacts FactsOf(string word) => Facts.GetValueOrDefault(word, NothingKnown);

    /// <summary>The same query with every word taken for the beginning of one.</summary>
    public SearchQuery Loosened() => this with { IsLoose = true };

    /// <summary>
    /// The same query, of whose words some may be found nowhere. Only the reading that has the fewest words is left: the others
    /// would be lax with what is no part of the question.
    /// </summary>
    public SearchQuery Lacking(int most) => this with
    {
        MostMissing = most,
        Readings =
        [
            .. Readings.Where(reading => reading is { Purpose: null, IsJoined: false })
                .OrderBy(reading => reading.Words.Count).Take(1),
            .. Readings.Where(reading => reading.Purpose is not null),
        ],
    };

    /// <summary>
    /// Whether a word of a reading means the words that begin with it. A single letter never does: almost every app has a
    /// word with it. Nor does the ending of a file.
    /// </summary>
    public bool IsPrefix(SearchReading reading, int word) =>
        (IsLoose || (word == reading.Words.Count - 1 && !Endings.Contains(reading.Words[word])))
            && !(reading.Words[word] is [var only] && char.IsAscii(only));

    /// <summary>
    /// Queries that may have been meant, the likeliest first: some words are replaced by words that differ in a letter or two.
    /// </summary>
    /// <param name="meant">Gives for a word its possible meanings, with the distance; itself at distance 0 where it may be
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
            .Select(query => new SearchQuery(query.Words)
            {
                IsLoose = true, Distance = query.Distance,
                Doubts = Words.Zip(query.Words).Count(pair => pair.First != pair.Second
                    && !SpellingGuess.IsSlip(pair.First, pair.Second)),
            })
            .Take(most)];
    }

    private static HashSet<string> EndingsIn(string text) =>
    [
        .. text.Split(' ').Select(word => word.TrimStart('*')).Where(word => word.Length > 1 && word[0] == '.')
            .Select(word => SearchText.Fold(word[1..]))
            .Where(ending => ending.Length > 0 && !ending.Contains(' ', StringComparison.Ordinal)),
    ];
}
