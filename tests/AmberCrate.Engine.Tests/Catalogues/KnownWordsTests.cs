using AmberCrate.Core.Searching;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Tests.Catalogues;

/// <summary>Words are looked up by how they are spelled, and found as if all had been compared.</summary>
public sealed class KnownWordsTests : IDisposable
{
    private readonly Database _database = Database.Open(null);
    private readonly IndexVocabulary _words;

    public KnownWordsTests()
    {
        _database.Run(CatalogueTables.Create);
        _words = new IndexVocabulary(_database);
    }

    [Fact]
    public void What_is_near_is_found_as_if_all_words_had_been_compared()
    {
        // Few syllables, so that many words are near; one with letters of another alphabet.
        string[] parts = ["an", "ban", "do", "r", "ri", "scrim", "t", "лес", "7"];
        var chance = new Random(11);
        var all = Enumerable.Range(0, 3000)
            .Select(_ => string.Concat(chance.GetItems(parts, chance.Next(1, 7))))
            .ToHashSet(StringComparer.Ordinal);
        _words.Add(all, new HashSet<(string, string)>());
        var found = 0;
        foreach (var text in all.Take(120).Concat(["лесрик", "zzzzzzzzz", "bandorixxx", "nabdroi", "scirmdo", ""]))
        {
            for (var most = 1; most <= 3; most++)
            {
                var pattern = new SpellingPattern(text, most, skipsJoints: false);
                var near = _words.Near(pattern);
                near.Select(word => word.Word).ShouldBeUnique();
                var compared = pattern.Among(all).Where(word => IsTried(word.Text, text));
                near.Where(word => IsTried(word.Word, text))
                    .OrderBy(word => word.Word, StringComparer.Ordinal)
                    .ShouldBe(compared.OrderBy(word => word.Text, StringComparer.Ordinal), $"{text} {most}");
                found += near.Count;
            }
        }

        found.ShouldBeGreaterThan(2000);
    }

    [Fact]
    public void Words_are_known_by_their_beginnings_until_they_are_forgotten()
    {
        _words.Add(new HashSet<string> { "gantry", "gauze" }, new HashSet<(string, string)>());
        _words.Add(new HashSet<string> { "gauze", "scrim" }, new HashSet<(string, string)>());
        (_words.HasBeginning("gan"), _words.HasBeginning("gb"), _words.HasBeginning("scrim")).ShouldBe((true, false, true));
        _words.Near(new SpellingPattern("guaze", 1, skipsJoints: false)).ShouldBe([("gauze", 1)]);
        _words.Clear();
        _words.HasBeginning("gan").ShouldBeFalse();
        _words.Near(new SpellingPattern("gauze", 1, skipsJoints: false)).ShouldBeEmpty();
    }

    public void Dispose() => _database.Dispose();

    /// <summary>
    /// Letters of other alphabets are not tried in the place of Latin ones, and digits only where there are some.
    /// </summary>
    private static bool IsTried(string word, string text) => (word.All(char.IsAscii) || !text.All(char.IsAscii))
        && (!word.Any(char.IsDigit) || text.Any(char.IsDigit) || !text.All(char.IsAscii));
}
