using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Searching;

/// <summary>The folded texts of one app, by which it is found and ranked.</summary>
public sealed record SearchEntry(AppKind Kind, bool Reviewed, string Id, string Name, string Keywords, string Categories, string Developer, string Summary)
{
    /// <summary>Id and name run together, by which they are found when the query runs them together too.</summary>
    public string Squashed => $"{Id.Replace(" ", "", StringComparison.Ordinal)} {Name.Replace(" ", "", StringComparison.Ordinal)}";

    /// <summary>Folds the texts of a card.</summary>
    public static SearchEntry Of(AppCard card) => new(
        card.Kind,
        card.Review.State == ReviewState.Reviewed,
        SearchText.Fold(card.Id.Text),
        SearchText.Fold(card.Name),
        string.Join(' ', card.Keywords.Select(SearchText.Fold)),
        string.Join(' ', card.Categories.Select(CategoryWords.Of)),
        SearchText.Fold(card.Developer?.Name ?? ""),
        SearchText.Fold(card.Summary));
}
