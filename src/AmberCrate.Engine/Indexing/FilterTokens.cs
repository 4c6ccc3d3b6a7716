using AmberCrate.Core.Cards;
using AmberCrate.Core.Searching;

namespace AmberCrate.Engine.Indexing;

/// <summary>
/// The words of the index for the filters of a search. They are in a column of their own, where no query
/// looks.
/// </summary>
internal static class FilterTokens
{
    /// <summary>The word for apps that have been reviewed.</summary>
    public const string Reviewed = "reviewed";

    /// <summary>The marks of a card.</summary>
    public static string FromCard(AppCard card)
    {
        var marks = new List<string> { OfKind(card.Kind), OfId(SearchText.Squash(card.Id.Text)) };
        if (card.Review.State == ReviewState.Reviewed) marks.Add(Reviewed);
        marks.AddRange((card.Licence ?? "").Split([' ', '(', ')'], StringSplitOptions.RemoveEmptyEntries)
            .Where(word => word is not ("AND" or "OR" or "WITH"))
            .Select(OfLicence));
        return string.Join(' ', marks);
    }

    /// <summary>The word for an id, with the domain that it may begin with, run together.</summary>
    public static string OfId(string squashed) => $"id{squashed}";

    /// <summary>The word for a kind of app.</summary>
    public static string OfKind(AppKind kind) => $"kind{(int)kind}";

    /// <summary>The word for an identifier of a licence expression.</summary>
    public static string OfLicence(string identifier) => $"licence{SearchText.Squash(identifier)}";

    /// <summary>The word for a catalogue.</summary>
    public static string OfCatalogue(long number) => $"catalogue{number}";
}
