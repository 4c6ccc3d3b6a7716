using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Searching;

/// <summary>The folded texts of one app, by which it is found and ranked.</summary>
public sealed record SearchEntry
{
    /// <summary>What it is.</summary>
    public required AppKind Kind { get; init; }

    /// <summary>Whether the catalogue's maintainers have found it good.</summary>
    public required bool Reviewed { get; init; }

    /// <summary>The id as words.</summary>
    public required string Id { get; init; }

    /// <summary>The name.</summary>
    public required string Name { get; init; }

    /// <summary>The keywords.</summary>
    public string Keywords { get; init; } = "";

    /// <summary>The categories in plain words, with the usual synonyms.</summary>
    public string Categories { get; init; } = "";

    /// <summary>The developer.</summary>
    public string Developer { get; init; } = "";

    /// <summary>The summary.</summary>
    public string Summary { get; init; } = "";

    /// <summary>The description.</summary>
    public string Description { get; init; } = "";

    /// <summary>Id and name run together, by which they are found when the query runs them together too.</summary>
    public string Squashed => RunTogether(Id) == RunTogether(Name) ? RunTogether(Id) : $"{RunTogether(Id)} {RunTogether(Name)}";

    /// <summary>Whether it is an app, and not what apps need.</summary>
    public bool IsApp => Kind is AppKind.DesktopApp or AppKind.ConsoleApp;

    /// <summary>All its texts.</summary>
    public IEnumerable<string> Texts => [Id, Name, Squashed, Keywords, Categories, Developer, Summary, Description];

    /// <summary>Folds the texts of a card.</summary>
    public static SearchEntry Of(AppCard card) => new()
    {
        Kind = card.Kind,
        Reviewed = card.Review.State == ReviewState.Reviewed,
        Id = SearchText.Fold(card.Id.Text),
        Name = SearchText.Fold(card.Name),
        Keywords = string.Join(' ', card.Keywords.Select(SearchText.FoldPhrase)),
        Categories = string.Join(' ', card.Categories.Select(CategoryWords.Of)),
        Developer = SearchText.FoldPhrase(card.Developer?.Name ?? ""),
        Summary = SearchText.FoldCompounds(card.Summary),
        Description = SearchText.FoldCompounds(card.Description ?? ""),
    };

    internal static string RunTogether(string folded) => folded.Replace(" ", "", StringComparison.Ordinal);
}
