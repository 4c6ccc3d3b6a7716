using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Searching;

/// <summary>The folded texts of one app in one language.</summary>
/// <param name="Language">The language.</param>
/// <param name="Name">The name.</param>
/// <param name="Keywords">The keywords.</param>
/// <param name="Summary">The summary.</param>
/// <param name="Description">The description.</param>
public sealed record LocalTexts(string Language, string Name, string Keywords, string Summary, string Description)
{
    /// <summary>
    /// What stands between a language and a word in the index, so that words of one language are not found in another. No folded
    /// word has it.
    /// </summary>
    public const char Mark = '\u00a7';

    /// <summary>Folds the texts of a translation.</summary>
    public static LocalTexts FromTranslation(Translation text) => new(
        text.Language, SearchText.Fold(text.Name ?? ""), string.Join(' ', text.Keywords.Select(SearchText.FoldPhrase)),
        SearchText.FoldCompounds(text.Summary ?? ""), SearchText.FoldCompounds(text.Description ?? ""));

    /// <summary>What comes before each word of a language in the index: <c>ptbr§</c>.</summary>
    public static string PrefixOf(string language) => SearchText.Squash(language) + Mark;

    /// <summary>The words of name and keywords, marked.</summary>
    public string MarkedNames => Marked($"{Name} {(Name.Contains(' ') ? SearchEntry.RunTogether(Name) : "")} {Keywords}");

    /// <summary>The words of summary and description, marked.</summary>
    public string MarkedTexts => Marked($"{Summary} {Description}");

    private string Marked(string words)
    {
        var prefix = PrefixOf(Language);
        return string.Join(
            ' ', words.Split(' ', StringSplitOptions.RemoveEmptyEntries).Distinct().Select(word => prefix + word));
    }
}
