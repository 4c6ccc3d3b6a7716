using AmberCrate.Core.Searching;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Indexing;

/// <summary>
/// Every word of the index, in the order of its letters from either end: with both, words that are spelled nearly like another
/// one are looked up and not searched for. Words stay when the last app that has them goes; who finds one asks the index for
/// its apps.
/// </summary>
/// <param name="database">The catalogue cache.</param>
internal sealed class IndexVocabulary(Database database)
{
    private const int MostForms = 12, MostBeginning = 12;
    private const string BeginsSo = "word >= $1 AND word < $1 || char(1114111)";

    /// <summary>Adds words, those that are known among them.</summary>
    /// <param name="words">The words of all texts.</param>
    /// <param name="local">Those of texts in other languages, each with its language.</param>
    public void Add(IReadOnlySet<string> words, IReadOnlySet<(string Language, string Word)> local)
    {
        Fill("words", words);
        Fill("words_reversed", words.Select(SpellingSeeds.Reversed));
        using var insert = database.Prepare("INSERT OR IGNORE INTO stems VALUES($1, $2)");
        foreach (var (stem, word) in words.Select(word => (Stem: WordStem.English(word), Word: word))
            .Where(pair => pair.Stem != pair.Word)
            .Concat(local.Select(pair => (Stem: WordStem.Local(pair.Word, pair.Language) ?? "", pair.Word))
                .Where(pair => pair.Stem.Length > 0))
            .OrderBy(pair => pair.Stem, StringComparer.Ordinal)) insert.Run(stem, word);
    }

    /// <summary>Forgets all.</summary>
    public void Clear() => database.Run("DELETE FROM words; DELETE FROM words_reversed; DELETE FROM stems");

    /// <summary>The other words that have the same stem, in English or in a language of the user; some of them where there are
    /// many.</summary>
    public IReadOnlyList<string> FormsOf(string word, IReadOnlyList<string> languages)
    {
        var forms = new HashSet<string>(StringComparer.Ordinal);
        var english = WordStem.English(word);
        if (HasWord(english)) forms.Add(english);
        foreach (var stem in languages.Select(language => WordStem.Local(word, language)).OfType<string>().Prepend(english))
        {
            forms.UnionWith(
                database.Query("SELECT word FROM stems WHERE stem = $1 LIMIT $2", row => row.Text(0), stem, (long)MostForms));
        }

        forms.Remove(word);
        return [.. forms];
    }

    /// <summary>Whether any word begins so.</summary>
    public bool HasBeginning(string letters) =>
        database.Number($"SELECT 1 FROM words WHERE {BeginsSo} LIMIT 1", letters) == 1;

    /// <summary>
    /// The words that begin so; null if they are many. To ask the index for a few words is faster than to ask it for a prefix:
    /// for a prefix it merges all rows before it gives the first one.
    /// </summary>
    public IReadOnlyList<string>? Beginning(string letters)
    {
        var words = database.Query(
            $"SELECT word FROM words WHERE {BeginsSo} LIMIT $2", row => row.Text(0), letters, MostBeginning + 1L);
        return words.Count <= MostBeginning ? words : null;
    }

    /// <summary>The words that are near a text, each once. The others are never made into strings.</summary>
    public IReadOnlyList<(string Word, int Distance)> Near(SpellingPattern pattern)
    {
        var (text, most) = (pattern.Text, pattern.Most);
        var near = new Dictionary<string, int>(StringComparer.Ordinal);
        if (SpellingSeeds.Create(text, most) is { } seeds)
        {
            LookUp("words", seeds.Beginnings, pattern, word => word);
            LookUp(
                "words_reversed", seeds.Endings, new SpellingPattern(SpellingSeeds.Reversed(text), most, skipsJoints: false),
                SpellingSeeds.Reversed);
        }
        else
        {
            database.Each(
                "SELECT word FROM words WHERE length(word) BETWEEN $1 AND $2", row => Take(row, pattern, word => word),
                text.Length - most, text.Length + most);
        }

        return [.. near.Select(pair => (pair.Key, pair.Value))];

        void LookUp(string table, IReadOnlyList<string> beginnings, SpellingPattern compared, Func<string, string> word)
        {
            if (beginnings.Count == 0) return;
            database.Each(
                $"SELECT word FROM json_each($1) AS seed CROSS JOIN {table} ON word >= seed.value AND word < seed.value || "
                    + $"char(1114111)",
                row => Take(row, compared, word), Json(beginnings));
        }

        void Take(Row row, SpellingPattern compared, Func<string, string> word)
        {
            if (compared.DistanceTo(row.Utf8(0)) is var distance && distance <= most) near[word(row.Text(0))] = distance;
        }
    }

    private bool HasWord(string word) => database.Number("SELECT 1 FROM words WHERE word = $1", word) == 1;

    /// <summary>Sorted first, so that each lands beside the previous one.</summary>
    private void Fill(string table, IEnumerable<string> words)
    {
        using var insert = database.Prepare($"INSERT OR IGNORE INTO {table} VALUES($1)");
        foreach (var word in words.Order(StringComparer.Ordinal)) insert.Run(word);
    }

    /// <summary>Folded words hold letters and digits only, so that quoting them is all the escaping there is.</summary>
    private static string Json(IReadOnlyList<string> words) => $"[\"{string.Join("\",\"", words)}\"]";
}
