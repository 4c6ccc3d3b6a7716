using AmberCrate.Core.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary>The words for the fields where a search has found its words.</summary>
internal static class FieldWords
{
    /// <summary>The word for a field; the kinds of matches within a name are one.</summary>
    public static string WordFor(SearchField field) => field switch
    {
        SearchField.WholeName or SearchField.NameStart or SearchField.NameWords => "name",
        SearchField.Keyword => "keyword",
        SearchField.FileType => "file type",
        SearchField.Purpose => "purpose",
        SearchField.Category or SearchField.Area => "category",
        SearchField.Developer => "developer",
        SearchField.Description => "description",
        SearchField.Summary => "summary",
    };
}
