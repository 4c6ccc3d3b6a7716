using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using CsCheck;

namespace AmberCrate.Core.Tests.Searching;

public sealed class SearchRankingTests
{
    private static readonly SearchEntry Paint =
        Entry("scrim-paint", "Scrim Paint", "cloth gauze", "graphics drawing", "battenworks", "paint backdrops to scale");

    [Theory]
    [InlineData("scrim paint", SearchField.WholeName)]
    [InlineData("Scrim-Paint", SearchField.WholeName)]
    [InlineData("SCRIMPAINT", SearchField.WholeName)]
    [InlineData("scr im.paint", SearchField.WholeName)]
    [InlineData("scrim", SearchField.NameStart)]
    [InlineData("scrimpa", SearchField.NameStart)]
    [InlineData("paint scrim", SearchField.NameWords)]
    [InlineData("paint", SearchField.NameWords)]
    [InlineData("gauze", SearchField.Keyword)]
    [InlineData("paint gauze", SearchField.Keyword)]
    [InlineData("drawing", SearchField.Category)]
    [InlineData("Bättenwörks", SearchField.Developer)]
    [InlineData("backdrops", SearchField.Summary)]
    [InlineData("scrim backdrops", SearchField.Summary)]
    [InlineData("painters", SearchField.Description)]
    [InlineData("scrim painters frame", SearchField.Description)]
    public void Queries_find_an_app_by_their_weakest_word(string query, SearchField field) =>
        SearchRanking.Judge(SearchQuery.Parse([query]), Paint).ShouldNotBeNull().Field.ShouldBe(field);

    [Theory]
    [InlineData("lamp")]
    [InlineData("scrim lamp")]
    [InlineData("aint")]
    [InlineData("pain scrim")]
    [InlineData("!?")]
    [InlineData("")]
    public void A_word_that_is_nowhere_finds_nothing(string query) =>
        SearchRanking.Judge(SearchQuery.Parse([query]), Paint).ShouldBeNull();

    [Fact]
    public void The_share_of_the_name_comes_first_then_reviewed_and_apps_before_runtimes()
    {
        var whole = Entry("scrim", "Scrim", "", "", "", "");
        var start = Entry("scrim-paint", "Scrim Paint", "", "", "", "");
        var longer = Entry("scrim-painting", "Scrim Painting", "", "", "", "");
        var runtime = Entry("scrim-rt", "Scrim RT", "", "", "", "") with { Kind = AppKind.Runtime };
        var keyword = Entry("paint", "Paint", "scrim", "", "", "");
        var unreviewed = start with { Reviewed = false };
        SearchEntry[] expected = [whole, start, unreviewed, longer, runtime, keyword];
        expected.Reverse()
            .OrderByDescending(entry => SearchRanking.Judge(SearchQuery.Parse(["scrim"]), entry)!.Weight)
            .ThenBy(entry => entry.Name)
            .ShouldBe(expected);
    }

    [Theory]
    [InlineData("Scrim-Paint", "scrim paint")]
    [InlineData("  Ælfric's  Œuvre—Straße ", "aelfric s oeuvre strasse")]
    [InlineData("e\u0301te\u0301", "ete")]
    [InlineData("日本 Ж", "日本 ж")]
    [InlineData("\u001b[31m", "31m")]
    public void Texts_are_folded(string text, string folded) => SearchText.Fold(text).ShouldBe(folded);

    [Theory]
    [InlineData("scrim", "scrim", 0)]
    [InlineData("scrim", "scrmi", 1)]
    [InlineData("scrim", "scrm", 1)]
    [InlineData("scrim", "skrim", 1)]
    [InlineData("", "abc", 3)]
    [InlineData("paint", "plaint", 1)]
    public void Names_are_so_far_apart(string left, string right, int distance)
    {
        WordDistance.Between(left, right).ShouldBe(distance);
        WordDistance.Between(right, left).ShouldBe(distance);
    }

    [Fact]
    public void A_pattern_finds_the_same_distance_as_comparing_letter_by_letter()
    {
        // Few different letters, so that many texts are near; some beyond ASCII, and some longer than what fits into a word of
        // bits.
        var letters = Gen.Char["abcжé"];
        Gen.Select(Gen.String[letters, 0, 12], Gen.String[letters, 0, 14], Gen.Int[0, 3], Gen.Int[0, 1])
            .Sample((text, other, most, longer) =>
        {
            var padding = new string('x', 60 * longer);
            var pattern = new SpellingPattern(padding + text, most, skipsJoints: false);
            var distance = WordDistance.Between(text, other);
            var utf8 = Encoding.UTF8.GetBytes(padding + other);
            if (distance <= most)
            {
                pattern.DistanceTo(padding + other).ShouldBe(distance);
                pattern.DistanceTo(utf8).ShouldBe(distance);
            }
            else
            {
                pattern.DistanceTo(padding + other).ShouldBeGreaterThan(most);
                pattern.DistanceTo(utf8).ShouldBeGreaterThan(most);
            }
        });
    }

    [Theory]
    [InlineData("scrimpaint", "scrim-paint", true, 0)]
    [InlineData("scrimpaint", "s.c-rim.pai-nt", true, 0)]
    [InlineData("scrimpaint", "scrim-paint", false, 1)]
    [InlineData("", "", false, 0)]
    [InlineData("", "a", false, 1)]
    public void Joints_count_or_not(string text, string other, bool skips, int distance)
    {
        var pattern = new SpellingPattern(text, 3, skips);
        pattern.DistanceTo(other).ShouldBe(distance);
        pattern.DistanceTo(Encoding.UTF8.GetBytes(other)).ShouldBe(distance);
    }

    [Fact]
    public void What_is_near_begins_or_ends_with_a_seed()
    {
        var letters = Gen.Char["abc"];
        Gen.Select(Gen.String[letters, 1, 16], Gen.Int[1, 3], Gen.Int[0, int.MaxValue]).Sample((text, most, chance) =>
        {
            var other = Misspelled(text, most, new Random(chance));
            if (SpellingSeeds.Create(text, most) is not { } seeds) text.Length.ShouldBeLessThan(3);
            else if (WordDistance.Between(text, other) <= most) (Begins(other, seeds.Beginnings)
                || Begins(SpellingSeeds.Reversed(other), seeds.Endings)).ShouldBeTrue($"{text} {most} {other}");
        });

        static bool Begins(string text, IReadOnlyList<string> seeds) =>
            seeds.Any(seed => text.StartsWith(seed, StringComparison.Ordinal));

        static string Misspelled(string text, int times, Random chance)
        {
            for (; times > 0; times--)
            {
                var (at, letter) = (chance.Next(text.Length + 1), "abcz"[chance.Next(4)]);
                text = chance.Next(4) switch
                {
                    0 => text.Insert(at, $"{letter}"),
                    1 when at < text.Length => text.Remove(at, 1),
                    2 when at < text.Length => $"{text[..at]}{letter}{text[(at + 1)..]}",
                    _ when at + 1 < text.Length => $"{text[..at]}{text[at + 1]}{text[at]}{text[(at + 2)..]}",
                    _ => text,
                };
            }

            return text;
        }
    }

    [Fact]
    public void Seeds_are_few_and_are_of_Latin_letters()
    {
        var seeds = SpellingSeeds.Create("scrimpaint", 2).ShouldNotBeNull();
        seeds.Beginnings.ShouldContain("scri");
        seeds.Endings.ShouldContain("tnia");
        seeds.Beginnings.Count.ShouldBeLessThan(220);
        SpellingSeeds.Create("scrimжpaint", 2).ShouldBeNull();
        SpellingSeeds.Create("scrim-paint", 2).ShouldBeNull();
        SpellingSeeds.Create("scrimpaint", 4).ShouldBeNull();
        SpellingSeeds.Create("", 1).ShouldBeNull();
    }

    [Theory]
    [InlineData("abc", "cba")]
    [InlineData("", "")]
    [InlineData("жe\U0001D4B6", "\U0001D4B6eж")]
    public void Texts_are_turned_round_by_whole_letters(string text, string reversed) =>
        SpellingSeeds.Reversed(text).ShouldBe(reversed);

    [Fact]
    public void Every_word_of_a_loose_query_may_be_the_beginning_of_one() =>
        SearchRanking.Judge(SearchQuery.Parse(["pain scr"]).Loosened(), Paint).ShouldNotBeNull().Field.ShouldBe(
            SearchField.NameWords);

    [Theory]
    [InlineData("teller seat map", "seatmap teller", SearchField.NameWords)]
    [InlineData("map seat", "seatmap teller", SearchField.NameStart)]
    [InlineData("sheet thunder", "thundersheet", SearchField.WholeName)]
    [InlineData("box office", "seatmap boxoffice", SearchField.NameWords)]
    public void Neighbouring_words_may_be_one_in_either_order(string query, string name, SearchField field)
    {
        var entry = Entry(name, name, "", "", "", "");
        SearchRanking.Judge(SearchQuery.Parse([query]), entry).ShouldBeNull();
        SearchRanking.Judge(
            SearchQuery.Parse([query])
                .Joined(word => name.Split(' ').Any(known => known.StartsWith(word, StringComparison.Ordinal))),
            entry).ShouldNotBeNull().Field.ShouldBe(field);
        SearchQuery.Parse([query]).Joined(_ => false).Readings.ShouldHaveSingleItem();
    }

    [Theory]
    [InlineData("Sign-in sheets, e.g. for 2.5 acts", "sign in signin sheets e g eg for 2 5 25 acts")]
    [InlineData("Plain words", "plain words")]
    [InlineData(" - -- a-", "a")]
    [InlineData("", "")]
    public void Compounds_are_found_in_one_word_too(string text, string folded) =>
        SearchText.FoldCompounds(text).ShouldBe(folded);

    [Theory]
    [InlineData("Cue-sheet", "cue sheet cuesheet")]
    [InlineData("Tallow Lane Playhouse", "tallow lane playhouse tallowlane laneplayhouse")]
    [InlineData("gauze", "gauze")]
    public void Phrases_are_found_in_one_word_too(string text, string folded) => SearchText.FoldPhrase(text).ShouldBe(folded);

    [Theory]
    [InlineData("scirm", "scrim 1")]
    [InlineData("scrm", "scrim 1")]
    [InlineData("gantrry", "gantry 1")]
    [InlineData("backlcoht", "backcloth 2")]
    [InlineData("rop", "")]
    [InlineData("zzzzzzzz", "")]
    [InlineData("clotg", "cloth 1|cloths 2")]
    public void Misspelled_words_are_guessed(string word, string expected)
    {
        string[] known = ["scrim", "gantry", "backcloth", "cloth", "rope", "ropes", "sceim"];
        var near = SpellingGuess.MostWrong(word) is > 0 and var most
            ? new SpellingPattern(word, most, skipsJoints: false).Among(known)
            : [];
        string.Join('|', SpellingGuess.FindNearest(word, near, candidate => candidate == "sceim" ? 0 : 1)
            .Select(guess => $"{guess.Word} {guess.Distance}")).ShouldBe(expected.Split("|cloths")[0]);
    }

    [Fact]
    public void Guesses_keep_known_words_and_rank_below_the_same_match_as_typed()
    {
        var guess =
            SearchQuery.Parse(["scirm paint"]).Guesses(word => word == "paint" ? [(word, 0)] : [("scrim", 1), ("strim", 2)],
                8)[0];
        guess.Words.ShouldBe(["scrim", "paint"]);
        var match = SearchRanking.Judge(guess, Paint).ShouldNotBeNull();
        match.IsGuess.ShouldBeTrue();
        match.Weight.ShouldBeLessThan(SearchRanking.Judge(SearchQuery.Parse(["scrim paint"]), Paint)!.Weight);
    }

    [Fact]
    public void Only_near_names_are_proposed() =>
        NameDistance.Nearest("scrim-pant", ["scrim-paint", "scrim-plant", "cue-ledger", "scrimpant"], 2)
            .ShouldBe(["scrimpant", "scrim-paint"]);

    private static SearchEntry Entry(
        string id, string name, string keywords, string categories, string developer, string summary) => new()
        {
            Kind = AppKind.DesktopApp, Reviewed = true, Id = SearchText.Fold(id), Name = SearchText.Fold(name),
            Keywords = keywords, Categories = categories, Developer = developer, Summary = summary,
            Description = "for painters on the frame",
        };
}
