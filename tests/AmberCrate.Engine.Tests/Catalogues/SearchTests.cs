using AmberCrate.Core.Cards;
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
    [InlineData("scrim pantr", "props-pantry", "")]
    [InlineData("gauze", "scrim-paint props-pantry", "")]
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
    [InlineData("desk pant", "")]
    [InlineData("notebok door", "notebook")]
    public void A_word_that_others_begin_with_may_be_misspelled(string words, string expected)
    {
        var found = _stage.Find(words);
        string.Join(' ', found.Shown.Select(result => result.Id.Text)).ShouldBe(expected);
        found.Shown.ShouldAllBe(result => result.Match.IsGuess);
    }

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
