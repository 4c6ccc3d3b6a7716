using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Tests.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Catalogues;

public sealed class PartingTests
{
    private static readonly List<AppCard> Cards =
        [.. Enumerable.Range(0, 1200).Select(number => CardSamples.With($"app-{number}", "1.0 2026-01-01"))];

    [Fact]
    public void Every_card_is_in_exactly_one_part()
    {
        var parts = PartDivision.Divide(Cards).ToList();
        parts.Count.ShouldBeInRange(5, 8);
        parts.Sum(part => part.Lines).ShouldBe(1200);
        parts.Sum(part => part.Content.Count(b => b == '\n')).ShouldBe(1200);
    }

    [Fact]
    public void The_order_of_the_cards_does_not_matter() =>
        PartDivision.Divide([.. Cards.AsEnumerable().Reverse()]).Select(part => Convert.ToHexString(part.Content))
            .ShouldBe(PartDivision.Divide(Cards).Select(part => Convert.ToHexString(part.Content)));

    [Fact]
    public void A_change_to_one_card_changes_one_part()
    {
        var changed = Cards.ConvertAll(card => card.Id.Text == "app-7" ? card with { Summary = "Changed" } : card);
        PartDivision.Divide(Cards)
            .Zip(PartDivision.Divide(changed))
            .Count(pair => !pair.First.Content.SequenceEqual(pair.Second.Content))
            .ShouldBe(1);
    }

    [Fact]
    public void An_entry_document_is_read_back()
    {
        var document = new CatalogueDocument(
            new CatalogueSettings("Guild", "Shared") { Purposes = [Purpose.Create(["Fly it"], ["Art+Music"], ["Ropes"])] }, 3,
            [new PartListing(Sha256Digest.Parse(CardSamples.Digest), 10, 20, 3)]);
        var read = CatalogueDocument.Read(document.Write());
        (read.Settings.Title, read.Settings.Summary).ShouldBe(("Guild", "Shared"));
        read.Write().ShouldBe(document.Write());
        read.Settings.Purposes.ShouldHaveSingleItem().Categories.ShouldBe(["art+music"]);
        read.Parts.ShouldBe(document.Parts);
        read.Apps.ShouldBe(3);
    }

    [Theory]
    [InlineData("[]", "the entry document cannot be read")]
    [InlineData("{", "the entry document cannot be read")]
    [InlineData("{\"catalogue\":2}", "expected format 1, found 2")]
    [InlineData("{\"catalogue\":0}", "expected a whole number from 1")]
    [InlineData("{\"catalogue\":1}", "title: expected a string")]
    [InlineData("{\"catalogue\":1,\"title\":\"x\",\"apps\":1,\"parts\":[{\"sha256\":\"\"}]}", "expected a SHA-256 digest")]
    [InlineData("{\"catalogue\":1,\"title\":\"x\",\"apps\":1,\"parts\":[{\"sha256\":\"" + CardSamples.Digest
        + "\",\"size\":0}]}", "size: expected a whole number from 1")]
    public void A_faulty_entry_document_is_refused(string text, string says) =>
        Should.Throw<FormatException>(
            () => CatalogueDocument.Read(System.Text.Encoding.UTF8.GetBytes(text))).Message.ShouldContain(says);
}
