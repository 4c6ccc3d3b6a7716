using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Cards;

namespace AmberCrate.Cli.Shared;

/// <summary>What a card says about an app, fact by fact, for one app or several side by side.</summary>
internal static class AppFacts
{
    /// <summary>The names of the facts, in order.</summary>
    public static IReadOnlyList<string> Names { get; } =
    [
        "kind", "developer", "homepage", "licence", "sign-in", "licence key", "attention", "categories", "keywords", "review",
    ];

    /// <summary>The facts of a card, in the order of their names.</summary>
    public static (string Name, Cell Value)[] List(AppCard card) =>
    [
        (Names[0], new Cell(Words.WordFor(card.Kind))),
        (Names[1], OfDeveloper(card.Developer)),
        (Names[2], CellOrUnstated(card.Homepage)),
        (Names[3], CellOrUnstated(card.Licence is { } licence ? $"{licence} ({LicenceWords.Describe(licence)})" : null)),
        (Names[4], card.SignIn is null ? CellOrUnstated(null) : Words.WordFor(card.SignIn)),
        (Names[5], card.LicenceKey is null ? CellOrUnstated(null) : Words.WordFor(card.LicenceKey)),
        (Names[6], card.Attention is { } attention
            ? attention.Count == 0 ? "none" : new Cell(string.Join("; ", attention.Select(Words.WordFor)), Tone.Attention)
            : CellOrUnstated(null)),
        (Names[7], CellOrUnstated(card.Categories.Count == 0 ? null : string.Join(", ", card.Categories))),
        (Names[8], CellOrUnstated(card.Keywords.Count == 0 ? null : string.Join(", ", card.Keywords))),
        (Names[9], OfReview(card.Review)),
    ];

    private static Cell OfDeveloper(Developer? developer)
    {
        if (developer is null) return CellOrUnstated(null);
        var name = developer.Id is null ? developer.Name : $"{developer.Name} ({developer.Id})";
        return developer.IsConfirmed switch
        {
            true => $"{name}, confirmed by the catalogue",
            false => new Cell($"{name}, not confirmed by the catalogue", Tone.Attention),
            null => $"{name}; the catalogue does not say whether that is confirmed",
        };
    }

    private static Cell OfReview(Review review)
    {
        var text = CardWords.ReviewStates.WordOf(review.State);
        if (review.Date is { } date) text += " " + PlainText.Date(date);
        if (review.By is { } by) text += " by " + by;
        return new Cell(text, review.State == ReviewState.Reviewed ? Tone.Plain : Tone.Attention);
    }

    private static Cell CellOrUnstated(string? text) => text is null ? new Cell(Words.NotSupplied, Tone.Quiet) : new Cell(text);
}
