namespace AmberCrate.Core.Searching;

/// <summary>
/// Ranks an app for a query: a pure function of query and entry, so that the same question gets the same order everywhere. Each
/// word counts by the best field that has it and by how telling it is; a form of the word counts less than the word, and a word
/// that only begins with it less still. On top comes how much of the name, or of the summary, is what was requested: an app
/// whose name, or whose summary, is the query comes first. The idea of weighing fields and rarity together is that of BM25F
/// (S. Robertson and others, 2004); the share of the field takes the place of its length.
/// </summary>
public static class SearchRanking
{
    private const double ForForm = 0.93, ForBeginning = 0.86, ForLocal = 0.97;
    private const double ForWholeName = 2.5, ForWordStart = 1, ForLetterStart = 0.3, ForLetterShare = 0.6;
    private const double ForNameShare = 0.35, ForSummaryShare = 0.3;
    private const double ForWholeSummary = 0.5, ForWholePurpose = 0.25;
    private const double ForSecondReading = 0.2, ForReview = 0.05, ForNoApp = -0.4, PerLetterWrong = 0.35, PerDoubt = 0.1;
    private const double Behind = 100, PerMissing = 0.2, OfPurpose = 2, ForAskedType = 1.1, ForTextBeside = 0.3;
    private const int Scale = 1000, EarlyLetters = 200, LongStart = 8;

    // If some words of a query may be missing, those that are found must be selective.
    private const double MostLacking = 0.8;

    // A match below this is weak: a word of the description, or a main category.
    private const int Weak = 600;

    /// <summary>Judges one app; null when a word of the query is found nowhere in it.</summary>
    public static SearchMatch? Judge(SearchQuery query, SearchEntry entry)
    {
        if (query.Words.Count == 0) return null;
        Finding? best = null;
        var second = 0.0;
        foreach (var reading in query.Readings)
        {
            if (OfReading(query, reading, entry) is not { } found) continue;
            if (best is null || found.Score > best.Score) (best, second) = (found, best?.Score ?? second);
            else second = Math.Max(second, found.Score);
        }

        if (best is null) return null;
        var score = best.Score + (ForSecondReading * Math.Min(second, 1)) + Standing(entry)
            - (query.Distance * PerLetterWrong) - (query.Doubts * PerDoubt) - (best.Lacking * PerMissing);
        return new SearchMatch(best.Field, (int)(score * Scale), query.Distance > 0, best.Missing);
    }

    /// <summary>
    /// Whether a match says little of what was requested. One that lacks words counts by where the others are.
    /// </summary>
    public static bool IsWeak(SearchMatch match) => match.Weight < Weak && (match.Missing == 0 || match.IsVague);

    /// <summary>The order of an app among those that were not looked for by any word.</summary>
    public static SearchMatch Listed(SearchEntry entry) => new(SearchField.Category, (int)(Standing(entry) * Scale));

    /// <summary>The same match, ranked behind all that match as they are spelled.</summary>
    public static SearchMatch BehindOthers(SearchMatch match) => match with { Weight = match.Weight - (int)(Behind * Scale) };

    private static double Standing(SearchEntry entry) => (entry.Reviewed ? ForReview : 0) + (entry.IsApp ? 0 : ForNoApp);

    private static Finding? OfReading(SearchQuery query, SearchReading reading, SearchEntry entry)
    {
        if (reading.Purpose is null && OfName(query, reading, entry) is ( > 0 and var named, var which))
            return new Finding(named, which);
        if (OfWords(query, reading, entry) is not { } tally) return null;
        if (reading.Purpose is { } purpose)
        {
            if (PurposeMatch.In(purpose, entry) is not ( > 0 and var score, var where)) return null;
            tally = tally.With(score, OfPurpose, where);
        }

        if (tally.Weights == 0 || tally.Lacking > tally.Weights * MostLacking) return null;
        var all = reading.Words.Count;
        if (tally.Missing == all && reading.Purpose is null) return null;
        var basis = (0.7 * tally.Total / tally.Weights) + (0.3 * tally.Least);
        if (reading.Purpose is not null)
        {
            if (all == 0) basis += ForWholePurpose;
            return new Finding(basis, Max(tally.Field, SearchField.Purpose), tally.Missing, tally.Lacking);
        }

        if (tally.InNames > 0)
            basis += ForNameShare * NameShare(query, reading, entry) * (tally.InNames == all ? 1 : 0.5);
        if (tally.InSummary == all && tally.Missing == 0) basis += SummaryBonus(query, reading, entry);
        return new Finding(basis, tally.Field, tally.Missing, tally.Lacking);
    }

    /// <summary>How well the words are found; null where more of them are missing than may be.</summary>
    private static Tally? OfWords(SearchQuery query, SearchReading reading, SearchEntry entry)
    {
        var tally = new Tally();
        for (var at = 0; at < reading.Words.Count; at++)
        {
            var word = new AskedWord(query, reading, at);
            var (score, where) = word.In(entry);
            if (score == 0)
            {
                tally = tally.WithMissing(word.Importance);
                if (tally.Missing > query.MostMissing) return null;
                continue;
            }

            tally = tally.With(score, word.Importance, where) with
            {
                InNames = tally.InNames + (where <= SearchField.NameWords ? 1 : 0),
                InSummary = tally.InSummary
                    + (word.IsIn(entry.Summary) || entry.Local.Any(text => word.IsIn(text.Summary)) ? 1 : 0),
            };
        }

        return tally;
    }

    private static SearchField Max(SearchField one, SearchField other) => one > other ? one : other;

    /// <summary>
    /// What it is worth that a name is, or begins with, the words run together. A name that goes on where the last word ends is
    /// worth more than one in whose midst it ends: <c>cad</c> is hardly meant for Cadenza.
    /// </summary>
    private static (double Score, SearchField Field) OfName(SearchQuery query, SearchReading reading, SearchEntry entry)
    {
        var asked = reading.Squashed;
        var mayBegin = (asked.Length > 1 || !char.IsAscii(asked[0])) && !query.Endings.Contains(asked);
        double best = 0;
        foreach (var (words, name) in Names(entry))
        {
            if (name == asked) return (ForWholeName, SearchField.WholeName);
            if (!mayBegin || !name.StartsWith(asked, StringComparison.Ordinal)) continue;
            var toWordEnd = LettersToWordEnd(words, asked.Length);
            best = Math.Max(best, asked.Length >= LongStart || toWordEnd == asked.Length
                ? ForWordStart + ((double)asked.Length / name.Length)
                : ForLetterStart + (ForLetterShare * asked.Length / toWordEnd));
        }

        return best > 0 ? (best, SearchField.NameStart) : (0, default);
    }

    private static IEnumerable<(string Words, string RunTogether)> Names(SearchEntry entry) =>
        entry.Local.Select(text => text.Name).Prepend(entry.Name).Prepend(entry.Id)
            .Select(name => (name, SearchEntry.RunTogether(name)));

    /// <summary>How many letters there are from the last of so many letters to the end of its word.</summary>
    private static int LettersToWordEnd(string words, int letters)
    {
        var counted = 0;
        for (var at = 0; at < words.Length; at++)
        {
            if (words[at] != ' ') counted++;
            else if (counted >= letters) break;
        }

        return counted;
    }

    /// <summary>How much of the name, or of the id, the words are: the greater share of the two.</summary>
    private static double NameShare(SearchQuery query, SearchReading reading, SearchEntry entry)
    {
        double best = 0;
        foreach (var name in entry.Local.Select(text => text.Name).Prepend(entry.Name).Prepend(entry.Id))
        {
            double letters = 0, matched = 0;
            foreach (var word in name.Split(' '))
            {
                letters += word.Length;
                for (var at = 0; at < reading.Words.Count; at++)
                {
                    if (!new AskedWord(query, reading, at).Is(word)) continue;
                    matched += Math.Min(word.Length, reading.Words[at].Length + 2);
                    break;
                }
            }

            if (letters > 0) best = Math.Max(best, matched / letters);
        }

        return best;
    }

    private static double SummaryBonus(SearchQuery query, SearchReading reading, SearchEntry entry)
    {
        double best = 0;
        foreach (var summary in entry.Local.Select(text => text.Summary).Prepend(entry.Summary))
        {
            var (words, matched) = (0, 0);
            foreach (var word in summary.Split(' '))
            {
                if (FillerWords.Contains(word, null)) continue;
                words++;
                for (var at = 0; at < reading.Words.Count; at++)
                {
                    if (!new AskedWord(query, reading, at).Is(word)) continue;
                    matched++;
                    break;
                }
            }

            if (words == 0 || matched < reading.Words.Count) continue;
            best = Math.Max(best, (ForSummaryShare * matched / words) + (matched == words ? ForWholeSummary : 0));
        }

        return best;
    }

    private sealed record Finding(double Score, SearchField Field, int Missing = 0, double Lacking = 0);

    /// <summary>What the words of a reading come to.</summary>
    private sealed record Tally
    {
        public double Total { get; private init; }

        public double Weights { get; private init; }

        public double Lacking { get; private init; }

        public double Least { get; private init; } = double.MaxValue;

        public SearchField Field { get; private init; } = SearchField.WholeName;

        public int Missing { get; private init; }

        public int InNames { get; init; }

        public int InSummary { get; init; }

        public Tally With(double score, double weight, SearchField field) => this with
        {
            Total = Total + (score * weight),
            Weights = Weights + weight,
            Least = Math.Min(Least, score),
            Field = Max(Field, field),
        };

        public Tally WithMissing(double weight) =>
            this with { Weights = Weights + weight, Lacking = Lacking + weight, Missing = Missing + 1 };
    }

    /// <summary>A word of a query, as it is looked for in texts.</summary>
    private readonly struct AskedWord(SearchQuery query, SearchReading reading, int at)
    {
        private readonly string _word = reading.Words[at];
        private readonly bool _isPrefix = query.IsPrefix(reading, at);
        private readonly WordFacts _facts = query.FactsOf(reading.Words[at]);

        public double Importance => _facts.Importance;

        /// <summary>Whether a single word is this one, a form of it, or begins with it.</summary>
        public bool Is(string word) =>
            word == _word || (_isPrefix && word.StartsWith(_word, StringComparison.Ordinal)) || _facts.Forms.Contains(word);

        public bool IsIn(string text) => Quality(text) > 0;

        /// <summary>How well the best field has it, and which that is; 0 where none has.</summary>
        public (double Score, SearchField Field) In(SearchEntry entry)
        {
            (double Score, SearchField Field) best = (0, SearchField.Description);
            Try(entry.Name, 1, SearchField.NameWords, ref best);
            Try(entry.Id, 1, SearchField.NameWords, ref best);
            Try(entry.Squashed, 0.95, SearchField.NameWords, ref best);
            foreach (var text in entry.Local)
            {
                Try(text.Name, ForLocal, SearchField.NameWords, ref best);
                Try(text.Keywords, 0.75 * ForLocal, SearchField.Keyword, ref best);
                Try(text.Summary, 0.72 * ForLocal, SearchField.Summary, ref best);
                Try(text.Description, 0.3, SearchField.Description, ref best);
            }

            Try(entry.Keywords, 0.75, SearchField.Keyword, ref best);
            Try(entry.Types, 0.72, SearchField.FileType, ref best);
            Try(entry.Summary, 0.72, SearchField.Summary, ref best);
            Try(entry.Categories, 0.62, SearchField.Category, ref best);
            Try(entry.Developer, 0.55, SearchField.Developer, ref best);
            Try(entry.Areas, 0.33, SearchField.Area, ref best);
            Try(entry.Description.Length > EarlyLetters ? entry.Description[..EarlyLetters] : entry.Description, 0.35,
                SearchField.Description, ref best);
            Try(entry.Description, 0.28, SearchField.Description, ref best);
            return query.Endings.Contains(_word) && WordPlace.Find(entry.Types, _word).Has
                ? (ForAskedType + (ForTextBeside * best.Score), SearchField.FileType)
                : best;
        }

        private void Try(string text, double weight, SearchField field, ref (double Score, SearchField Field) best)
        {
            if (weight <= best.Score || text.Length == 0) return;
            var score = weight * Quality(text);
            if (score > best.Score) best = (score, field);
        }

        private double Quality(string text)
        {
            if (text.Length == 0) return 0;
            var (has, begins) = WordPlace.Find(text, _word);
            if (has) return 1;
            foreach (var form in _facts.Forms)
            {
                if (WordPlace.Find(text, form).Has) return ForForm;
            }

            return _isPrefix && begins ? ForBeginning : 0;
        }
    }
}
