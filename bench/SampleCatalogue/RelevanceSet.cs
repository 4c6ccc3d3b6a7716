using System.Text;
using AmberCrate.Core.Searching;

namespace AmberCrate.SampleCatalogue;

/// <summary>
/// Questions about a made catalogue, each derived from one card by a rule, as people ask: the whole name, its beginning, the
/// words run together or split, accents added or left out, one or two letters wrong, or what the app is for.
/// </summary>
public static class RelevanceSet
{
    /// <summary>How many questions of each kind.</summary>
    public const int PerGroup = 50;

    /// <summary>The questions. The same catalogue gives the same ones.</summary>
    public static IEnumerable<RelevanceQuery> Of(CardForge forge)
    {
        (string Group, Func<string, Topic, Random, string> Ask)[] groups =
        [
            ("exact", (name, _, random) => random.Next(2) == 0 ? name : name.ToUpperInvariant()),
            ("partial", (name, _, random) => name[..^(1 + random.Next(2))]),
            ("split", (name, _, random) => Rejoined(name, random)),
            ("accent", (name, _, random) => Accented(name, random)),
            ("typo", (name, _, random) => Mistyped(name, random)),
            ("purpose", (_, topic, random) => Purpose(topic, random)),
            ("two typos", (name, _, random) => Mistyped(Mistyped(name, random), random)),
        ];
        for (var group = 0; group < groups.Length; group++)
        {
            var random = new Random(group + 1);
            for (var at = 0; at < PerGroup; at++)
            {
                var number = random.Next(Math.Min(forge.Apps, DistinctTopics));
                yield return new RelevanceQuery(
                    groups[group].Group, groups[group].Ask(CardForge.NameOf(number), CardForge.TopicOf(number), random),
                    forge.Make(number).Id.Text);
            }
        }
    }

    /// <summary>After so many apps a purpose comes again, and a question for it would have more than one answer.</summary>
    public const int DistinctTopics = 40_000;

    /// <summary>
    /// The mean reciprocal rank: 1 where the expected app is always first, half where it is always second, nothing where it is
    /// missing.
    /// </summary>
    /// <param name="queries">The questions.</param>
    /// <param name="search">Finds ids, the best first.</param>
    public static double MeanReciprocalRank(
        IReadOnlyCollection<RelevanceQuery> queries, Func<string, IReadOnlyList<string>> search) =>
        queries.Average(query => search(query.Words).Select((id, at) => id == query.Expected ? 1.0 / (at + 1) : 0)
            .FirstOrDefault(score => score > 0));

    private static string Rejoined(string name, Random random)
    {
        var together = SearchText.Squash(name);
        if (random.Next(3) == 0) return together;
        if (name.Contains(' ', StringComparison.Ordinal)) return name.Replace(' ', random.Next(2) == 0 ? '-' : '.');
        // Written as one word on the card, typed as two: apart where the second capital is.
        var capital = 1 + name[1..].ToList().FindIndex(char.IsUpper);
        return capital > 1 ? $"{name[..capital]} {name[capital..]}".Replace('-', ' ') : together;
    }

    private static string Accented(string name, Random random)
    {
        const string plain = "aeiou", accented = "àéîöü";
        var text = new StringBuilder(SearchText.Fold(name));
        var vowels = Enumerable.Range(0, text.Length).Where(at => plain.Contains(text[at], StringComparison.Ordinal)).ToList();
        var chosen = vowels[random.Next(vowels.Count)];
        text[chosen] = accented[plain.IndexOf(text[chosen], StringComparison.Ordinal)];
        return text.ToString();
    }

    private static string Mistyped(string name, Random random)
    {
        var words = SearchText.Fold(name).Split(' ');
        var longest = Array.IndexOf(words, words.MaxBy(word => word.Length));
        var word = words[longest];
        var at = 1 + random.Next(word.Length - 2);
        words[longest] = random.Next(4) switch
        {
            0 => word.Remove(at, 1),
            1 => word.Insert(at, ((char)('a' + random.Next(26))).ToString()),
            2 => $"{word[..at]}{word[at + 1]}{word[at]}{word[(at + 2)..]}",
            _ => $"{word[..at]}{(char)('a' + random.Next(26))}{word[(at + 1)..]}",
        };
        return string.Join(' ', words);
    }

    private static string Purpose(Topic topic, Random random)
    {
        var word = random.Next(3) switch
        {
            0 => topic.Keywords[random.Next(topic.Keywords.Length)],
            1 => topic.Verb,
            _ => Pick(CategoryWords.FindWords(topic.Categories[^1]).Split(' '), random),
        };
        return random.Next(2) == 0 ? $"{word} {topic.Kind} {topic.Thing}" : $"{topic.Kind} {topic.Thing} {word}";
    }

    private static string Pick(string[] words, Random random) => words[random.Next(words.Length)];
}
