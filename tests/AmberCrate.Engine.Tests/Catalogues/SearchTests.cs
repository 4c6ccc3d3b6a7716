using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.SampleCatalogue;

namespace AmberCrate.Engine.Tests.Catalogues;

public sealed class SearchTests : IDisposable
{
    private static readonly AppCard Pattern = new CardForge(1, releases: 1).Make(0);
    private readonly TemporaryFolder _folder = new();
    private readonly SearchStage _stage;

    public SearchTests() => _stage = new SearchStage(
        [
            Card("Scrim Paint", "Paint backdrops to scale", "gauze", "cue sheet"),
            Card("Dimmer Desk", "Plan fades", "lighting"),
            Card("Dimer", "Count what is dim"),
            Card("Props Pantry", "Stores scrim and gauze", "stock-taking"),
            Card("Notebook", "Sign-in sheets for the stage door", "commandline"),
            Card("Seatmap Teller", "Seat plans"),
        ], _folder[""]);

    public void Dispose()
    {
        _stage.Dispose();
        _folder.Dispose();
    }

    [Theory]
    [InlineData("cuesheet", "scrim-paint")]
    [InlineData("stocktaking", "props-pantry")]
    [InlineData("signin sheets", "notebook")]
    [InlineData("sign in", "notebook")]
    [InlineData("note book", "notebook")]
    [InlineData("command line", "notebook")]
    [InlineData("teller seat map", "seatmap-teller")]
    [InlineData("map seat", "seatmap-teller")]
    [InlineData("tallowlane seat", "seatmap-teller")]
    public void Words_may_be_run_together_or_split(string words, string expected)
    {
        var found = _stage.Find(words);
        string.Join(' ', found.Shown.Select(result => result.Id.Text)).ShouldBe(expected);
        found.Guesses.ShouldBe(0);
    }

    [Theory]
    [InlineData("dimer", "dimer", "dimmer-desk")]
    [InlineData("dimmer", "dimmer-desk", "dimer")]
    [InlineData("scrim pantr", "props-pantry", "scrim-paint")]
    [InlineData("gauze", "props-pantry scrim-paint", "")]
    public void Guesses_at_names_come_behind_what_matches(string words, string matches, string guesses)
    {
        var found = _stage.Find(words);
        string.Join(' ', found.Shown.Where(result => !result.Match.IsGuess).Select(result => result.Id.Text)).ShouldBe(matches);
        string.Join(' ', found.Shown.SkipWhile(result => !result.Match.IsGuess).Select(result => result.Id.Text))
            .ShouldBe(guesses);
        (found.Matches, found.Guesses).ShouldBe((matches.Split(' ').Length, guesses.Length == 0 ? 0 : guesses.Split(' ').Length));
    }

    [Fact]
    public void Nothing_is_guessed_where_what_matches_fills_the_list() => _stage.Find("dimer", limit: 1)
        .ShouldSatisfyAllConditions(found => found.Shown.ShouldHaveSingleItem(), found => found.Guesses.ShouldBe(0));

    [Theory]
    [InlineData("paint pant", "scrim-paint")]
    [InlineData("notebok door", "notebook")]
    public void A_word_that_others_begin_with_may_be_misspelled(string words, string expected)
    {
        var found = _stage.Find(words);
        string.Join(' ', found.Shown.Select(result => result.Id.Text)).ShouldBe(expected);
        found.Shown.ShouldAllBe(result => result.Match.IsGuess);
    }

    [Theory]
    [InlineData("desk pant", "props-pantry dimmer-desk")]
    [InlineData("please show me scrim wardrobes", "scrim-paint props-pantry")]
    public void Where_nothing_has_all_the_words_what_has_most_is_told(string words, string expected)
    {
        var found = _stage.Find(words);
        string.Join(' ', found.Shown.Select(result => result.Id.Text)).ShouldBe(expected);
        found.Shown.ShouldAllBe(result => result.Match.Missing == 1);
        (found.Matches, found.Guesses, found.Partly).ShouldBe((0, 0, 2));
    }

    [Theory]
    [InlineData("scrims", "scrim-paint props-pantry")]
    [InlineData("painting a backdrop", "scrim-paint")]
    [InlineData("I need something to plan a fade", "dimmer-desk")]
    public void Forms_of_words_are_found_and_fillers_left_out(string words, string expected) =>
        string.Join(' ', _stage.Find(words).Shown.Select(result => result.Id.Text)).ShouldBe(expected);

    [Fact]
    public void A_catalogues_own_purposes_file_types_languages_and_popularity_count()
    {
        using var folder = new TemporaryFolder();
        var cards = new[]
        {
            Card("Fly Tower", "Count ropes") with { Categories = ["Construction"], MimeTypes = ["image/svg+xml"] },
            Card("Rope Ledger", "Count ropes") with
            {
                Translations = [new Translation("de", "Seilbuch", "Zaehlt Seile", ["Tauwerk"], null)],
            },
        };
        using var stage = new SearchStage(
            cards, folder[""], [Purpose.Create(["raise the curtain"], ["Construction"], [])],
            new Popularity(9, new Dictionary<string, int> { ["rope-ledger"] = 7 }));
        Ids("raising curtains").ShouldBe("fly-tower");
        stage.Find("raise the curtain").Shown[0].Match.Field.ShouldBe(SearchField.Purpose);
        Ids("svg").ShouldBe("fly-tower");
        Ids("ropes").ShouldBe("rope-ledger fly-tower");
        Ids("tauwerk").ShouldBe("");
        Ids("tauwerk", "de_AT", "de").ShouldBe("rope-ledger");
        Ids("seile", "de").ShouldBe("rope-ledger");
        stage.Find("seilbuch", languages: ["de"]).Shown[0].ShouldSatisfyAllConditions(
            found => found.Name.ShouldBe("Seilbuch"), found => found.Summary.ShouldBe("Zaehlt Seile"),
            found => found.Machines.ShouldBe(7), found => found.Match.Field.ShouldBe(SearchField.WholeName));

        string Ids(string words, params string[] languages) =>
            string.Join(' ', stage.Find(words, languages: languages).Shown.Select(result => result.Id.Text));
    }

    [Theory]
    [InlineData("raise the curtian", "fly-tower")]
    [InlineData("raise the curtain tonight", "fly-tower")]
    [InlineData("hemp", "rope-ledger")]
    [InlineData("hmep", "rope-ledger")]
    public void Purposes_help_where_words_are_misspelled_or_missing(string words, string expected)
    {
        using var folder = new TemporaryFolder();
        var cards = new[]
        {
            Card("Fly Tower", "Count weights") with { Categories = ["Construction"], Description = "Knows the oxen by name." },
            Card("Rope Ledger", "Count ropes behind a curtain", "hemp"),
        };
        using var stage = new SearchStage(cards, folder[""], [Purpose.Create(["raise the curtain"], ["Construction"], [])]);
        string.Join(' ', stage.Find(words).Shown.Select(result => result.Id.Text)).ShouldBe(expected);
    }

    [Fact]
    public void A_short_misspelled_word_is_not_guessed_to_be_any_of_a_description()
    {
        using var folder = new TemporaryFolder();
        var card = Card("Fly Tower", "Count weights") with { Description = "Knows the oxen by name." };
        using var stage = new SearchStage([card], folder[""]);
        stage.Find("oxen").Matches.ShouldBe(1);
        stage.Find("oxem").Shown.ShouldBeEmpty();
        stage.Find("wieghts").Guesses.ShouldBe(1);
    }

    [Theory]
    [InlineData("AND OR NOT NEAR(scrim, 5) \"*\" ^id : {")]
    [InlineData("the of and")]
    [InlineData("قناة 中文 é́́ 👩‍🎨")]
    [InlineData("squashed:scrim* OR marks:kind0")]
    public void Any_text_may_be_searched_for(string words) => _stage.Find(words).Shown.Count.ShouldBeLessThan(7);

    [Fact]
    public void A_query_of_ten_thousand_characters_is_answered() =>
        _stage.Find(string.Concat(Enumerable.Repeat("scrim gauze paint ", 600))).Shown.ShouldNotBeEmpty();

    private static AppCard Card(string name, string summary, params string[] keywords) => Pattern with
    {
        Id = AppId.Parse(SearchText.Fold(name).Replace(' ', '-')),
        Name = name,
        Summary = summary,
        Description = null,
        Keywords = keywords,
        Categories = [],
        Developer = new Developer("Tallow Lane", null),
        Review = new Review(ReviewState.Reviewed),
    };
}
