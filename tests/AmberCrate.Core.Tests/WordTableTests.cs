using AmberCrate.Core.Cards;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests;

public sealed class WordTableTests
{
    [Fact]
    public void Every_value_has_one_word_and_every_word_one_value()
    {
        Check(CardWords.Kinds);
        Check(CardWords.Formats);
        Check(ShellWords.Shells);
        Check(CardWords.SignIns);
        Check(CardWords.Attentions);
        Check(CardWords.ReviewStates);
        Check(ActionWords.Actions);
        Check(DueWords.States);
        Check(RightsWords.States);
        Check(StartWords.Reasons);
        Check(PlaceWords.Kinds);
        Check(ProblemWords.Codes);
        Check(OutcomeWords.Outcomes);
        Check(ScopeWords.Scopes);
    }

    [Fact]
    public void A_word_of_no_table_is_malformed() =>
        Should.Throw<MalformedException>(() => OutcomeWords.Outcomes.Read("Done")).Message.ShouldStartWith(
            "expected one of done, unchanged");

    [Fact]
    public void The_page_on_commands_tells_of_every_outcome()
    {
        var page = File.ReadAllText(Path.Combine(FloorsTests.RepositoryFolder, "docs", "commands.md"));
        var outcomes = page.Split("\n## ").Single(section => section.StartsWith("Outcomes\n", StringComparison.Ordinal));
        foreach (var (_, word) in OutcomeWords.Outcomes.Pairs) outcomes.ShouldContain($"`{word}`");
    }

    private static void Check<T>(WordTable<T> words)
        where T : struct, Enum
    {
        words.Pairs.Select(pair => pair.Value).ShouldBe(Enum.GetValues<T>(), ignoreOrder: true);
        words.Pairs.Select(pair => pair.Word).ShouldBeUnique();
        words.Pairs.ShouldAllBe(pair => words.WordOf(pair.Value) == pair.Word && words.Read(pair.Word).Equals(pair.Value));
    }
}
