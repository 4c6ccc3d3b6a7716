using System.Text;

namespace AmberCrate.Core.Searching;

/// <summary>
/// The plain words for the categories of the Desktop Menu specification, as people ask for an app's purpose.
/// </summary>
public static class CategoryWords
{
    private static readonly HashSet<string> Main = new(
        "AudioVideo Audio Video Development Education Game Graphics Network Office Science Settings System Utility".Split(' '),
        StringComparer.Ordinal);

    private static readonly Dictionary<string, string> Synonyms = new(StringComparer.Ordinal)
    {
        ["AudioVideo"] = "media", ["Audio"] = "sound", ["Graphics"] = "drawing picture image",
        ["2DGraphics"] = "drawing painting",
        ["VectorGraphics"] = "drawing", ["RasterGraphics"] = "painting photo", ["3DGraphics"] = "modelling rendering",
        ["Network"] = "internet",
        ["WebBrowser"] = "browser internet", ["Office"] = "work", ["WordProcessor"] = "writing document",
        ["TextEditor"] = "notes writing",
        ["Spreadsheet"] = "table calculation", ["Presentation"] = "slides", ["FileTransfer"] = "upload download copy",
        ["TerminalEmulator"] = "console shell",
        ["Utility"] = "tool", ["Development"] = "programming", ["Education"] = "learning", ["Game"] = "play", ["Email"] = "mail",
        ["Calendar"] = "dates schedule", ["ProjectManagement"] = "planning", ["Engineering"] = "plans technical",
        ["Database"] = "records inventory",
        ["Settings"] = "preferences", ["System"] = "administration", ["Finance"] = "money accounts", ["Viewer"] = "view",
        ["Publishing"] = "layout print",
    };

    /// <summary>
    /// Whether a category is one of the main ones, which say only roughly what an app is for: a weak reason to show it.
    /// </summary>
    public static bool IsMain(string category) => Main.Contains(category);

    /// <summary>The words for a category, folded: its name taken apart at capitals, as a whole, and the usual synonyms.</summary>
    public static string FindWords(string category)
    {
        var apart = new StringBuilder();
        foreach (var c in category)
        {
            if (char.IsUpper(c) && apart.Length > 0 && !char.IsUpper(apart[^1]) && !char.IsDigit(apart[^1])) apart.Append(' ');
            apart.Append(c);
        }

        var words = SearchText.Fold(apart.ToString());
        var whole = SearchText.Fold(category);
        var synonyms = Synonyms.GetValueOrDefault(category, "");
        return string.Join(' ', new[] { words, whole == words ? "" : whole, synonyms }.Where(part => part.Length > 0));
    }
}
