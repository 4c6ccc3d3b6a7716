using AmberCrate.Core.Cards;
using AmberCrate.Core.Searching;

namespace AmberCrate.Core.Tests.Searching;

public sealed class SearchRankingTests
{
    private static readonly SearchEntry Paint = Entry("scrim-paint", "Scrim Paint", "cloth gauze", "graphics drawing", "battenworks", "paint backdrops to scale");

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
        SearchRanking.Judge(SearchQuery.Of([query]), Paint).ShouldNotBeNull().Field.ShouldBe(field);

    [Theory]
    [InlineData("lamp")]
    [InlineData("scrim lamp")]
    [InlineData("aint")]
    [InlineData("pain scrim")]
    [InlineData("!?")]
    [InlineData("")]
    public void A_word_that_is_nowhere_finds_nothing(string query) => SearchRanking.Judge(SearchQuery.Of([query]), Paint).ShouldBeNull();

    [Fact]
    public void Better_fields_come_first_then_reviewed_then_apps_then_by_name()
    {
        var whole = Entry("scrim", "Scrim", "", "", "", "");
        var start = Entry("scrim-paint", "Scrim Paint", "", "", "", "");
        var longer = Entry("scrim-painting", "Scrim Painting", "", "", "", "");
        var runtime = Entry("scrim-rt", "Scrim RT", "", "", "", "") with { Kind = AppKind.Runtime };
        var keyword = Entry("paint", "Paint", "scrim", "", "", "");
        var unreviewed = start with { Reviewed = false };
        SearchEntry[] expected = [whole, start, longer, runtime, unreviewed, keyword];
        expected.Reverse().OrderByDescending(entry => SearchRanking.Judge(SearchQuery.Of(["scrim"]), entry)!.Weight).ThenBy(entry => entry.Name).ShouldBe(expected);
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
        NameDistance.Between(left, right).ShouldBe(distance);
        NameDistance.Between(right, left).ShouldBe(distance);
    }

    [Fact]
    public void Every_word_of_a_loose_query_may_be_the_beginning_of_one() =>
        SearchRanking.Judge(SearchQuery.Of(["pain scr"]).Loosened(), Paint).ShouldNotBeNull().Field.ShouldBe(SearchField.NameWords);

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
        string.Join('|', SpellingGuess.Of(word, known, candidate => candidate == "sceim" ? 0 : 1).Select(guess => $"{guess.Word} {guess.Distance}")).ShouldBe(expected.Split("|cloths")[0]);
    }

    [Fact]
    public void Guesses_keep_known_words_and_rank_below_real_matches()
    {
        var guess = SearchQuery.Of(["scirm paint"]).Guesses(word => word == "paint" ? [(word, 0)] : [("scrim", 1), ("strim", 2)], 8)[0];
        guess.Words.ShouldBe(["scrim", "paint"]);
        var match = SearchRanking.Judge(guess, Paint).ShouldNotBeNull();
        match.IsGuess.ShouldBeTrue();
        match.Weight.ShouldBeLessThan(SearchRanking.Judge(SearchQuery.Of(["painters"]), Paint)!.Weight);
    }

    [Fact]
    public void Only_near_names_are_proposed() =>
        NameDistance.Nearest("scrim-pant", ["scrim-paint", "scrim-plant", "cue-ledger", "scrimpant"], 2).ShouldBe(["scrimpant", "scrim-paint"]);

    private static SearchEntry Entry(string id, string name, string keywords, string categories, string developer, string summary) => new()
    {
        Kind = AppKind.DesktopApp, Reviewed = true, Id = SearchText.Fold(id), Name = SearchText.Fold(name),
        Keywords = keywords, Categories = categories, Developer = developer, Summary = summary, Description = "for painters on the frame",
    };
}
