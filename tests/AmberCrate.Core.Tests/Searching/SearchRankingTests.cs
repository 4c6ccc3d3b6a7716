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
    public void Queries_find_an_app_by_their_weakest_word(string query, SearchField field) =>
        SearchRanking.Judge(SearchQuery.Of([query]), Paint).ShouldNotBeNull().Field.ShouldBe(field);

    [Theory]
    [InlineData("lamp")]
    [InlineData("scrim lamp")]
    [InlineData("aint")]
    [InlineData("!?")]
    [InlineData("")]
    public void A_word_that_is_nowhere_finds_nothing(string query) => SearchRanking.Judge(SearchQuery.Of([query]), Paint).ShouldBeNull();

    [Fact]
    public void Better_fields_review_kind_and_short_names_come_first()
    {
        var whole = Entry("scrim", "Scrim", "", "", "", "");
        var start = Entry("scrim-paint", "Scrim Paint", "", "", "", "");
        var longer = Entry("scrim-painting", "Scrim Painting", "", "", "", "");
        var runtime = Entry("scrim-rt", "Scrim RT", "", "", "", "") with { Kind = AppKind.Runtime };
        var keyword = Entry("paint", "Paint", "scrim", "", "", "");
        var unreviewed = start with { Reviewed = false };
        SearchEntry[] expected = [whole, start, longer, runtime, unreviewed, keyword];
        expected.Reverse().OrderByDescending(entry => SearchRanking.Judge(SearchQuery.Of(["scrim"]), entry)!.Weight).ShouldBe(expected);
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
    public void Only_near_names_are_proposed() =>
        NameDistance.Nearest("scrim-pant", ["scrim-paint", "scrim-plant", "cue-ledger", "scrimpant"], 2).ShouldBe(["scrimpant", "scrim-paint"]);

    private static SearchEntry Entry(string id, string name, string keywords, string categories, string developer, string summary) =>
        new(AppKind.DesktopApp, true, SearchText.Fold(id), SearchText.Fold(name), keywords, categories, developer, summary);
}
