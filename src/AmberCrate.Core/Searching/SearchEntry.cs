using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Searching;

/// <summary>The folded texts of one app that it is found and ranked by.</summary>
public sealed record SearchEntry
{
    /// <summary>What it is.</summary>
    public required AppKind Kind { get; init; }

    /// <summary>Whether the catalogue's maintainers have found it good.</summary>
    public required bool Reviewed { get; init; }

    /// <summary>The id as words, without the domain that it may begin with.</summary>
    public required string Id { get; init; }

    /// <summary>The name.</summary>
    public required string Name { get; init; }

    /// <summary>The keywords.</summary>
    public string Keywords { get; init; } = "";

    /// <summary>The telling categories in plain words, with the usual synonyms.</summary>
    public string Categories { get; init; } = "";

    /// <summary>The main categories in plain words, with the usual synonyms.</summary>
    public string Areas { get; init; } = "";

    /// <summary>The types of file that it opens, by their endings.</summary>
    public string Types { get; init; } = "";

    /// <summary>The developer, and the domain that the id begins with.</summary>
    public string Developer { get; init; } = "";

    /// <summary>The summary.</summary>
    public string Summary { get; init; } = "";

    /// <summary>The description.</summary>
    public string Description { get; init; } = "";

    /// <summary>The texts in other languages; where an app is judged, only those that the user reads.</summary>
    public IReadOnlyList<LocalTexts> Local { get; init; } = [];

    /// <summary>Id and name run together, for a query that runs them together too.</summary>
    public string Squashed => RunTogether(Id) == RunTogether(Name) ? RunTogether(Id) : $"{RunTogether(Id)} {RunTogether(Name)}";

    /// <summary>Whether it is an app, and not what apps need.</summary>
    public bool IsApp => Kind is AppKind.DesktopApp or AppKind.ConsoleApp;

    /// <summary>All its texts.</summary>
    public IEnumerable<string> Texts =>
    [
        Id, Name, Squashed, Keywords, Categories, Areas, Types, Developer, Summary, Description,
        .. Local.SelectMany(text => (string[])[text.Name, text.Keywords, text.Summary, text.Description]),
    ];

    /// <summary>Folds the texts of a card.</summary>
    public static SearchEntry FromCard(AppCard card)
    {
        var (domain, rest) = AppNamespace.Split(card.Id);
        return new SearchEntry
        {
            Kind = card.Kind,
            Reviewed = card.Review.State == ReviewState.Reviewed,
            Id = SearchText.Fold(rest),
            Name = SearchText.Fold(card.Name),
            Keywords = string.Join(' ', card.Keywords.Select(SearchText.FoldPhrase)),
            Categories = string.Join(
                ' ', card.Categories.Where(name => !CategoryWords.IsMain(name)).Select(CategoryWords.FindWords)),
            Areas = string.Join(' ', card.Categories.Where(CategoryWords.IsMain).Select(CategoryWords.FindWords)),
            Types = FileTypes.Collect(card.MimeTypes),
            Developer = string.Join(
                ' ', new[] { SearchText.FoldPhrase(card.Developer?.Name ?? ""), SearchText.FoldCompounds(domain) }
                    .Where(part => part.Length > 0)),
            Summary = SearchText.FoldCompounds(card.Summary),
            Description = SearchText.FoldCompounds(card.Description ?? ""),
            Local = [.. card.Translations.Select(LocalTexts.FromTranslation)],
        };
    }

    internal static string RunTogether(string folded) => folded.Replace(" ", "", StringComparison.Ordinal);
}
