using System.Text;
using AmberCrate.Core.Placements;

namespace AmberCrate.Core.Machine;

/// <summary>
/// A file in the shelf entry of an app whose folders other apps borrow, for sh(1): it sets the variables to these folders. The
/// launchers of the borrowing apps read it, so that an upgrade of this app may move its folders.
/// </summary>
/// <param name="Folders">The folders that it sets variables for.</param>
public sealed record OwnFoldersText(IReadOnlyList<OwnFolders> Folders)
{
    /// <summary>Where it is in the shelf entry. No command can have this name.</summary>
    public const string Place = $"{Placement.LauncherFolder}/.folders";

    private const string Title = "# Written by acrate. It says where programs find the files of this app.\n";

    /// <summary>Writes it.</summary>
    public string Compose() => Title + Marks(Folders) + Settings(Folders);

    /// <summary>Reads one; null if the text was not written here.</summary>
    /// <param name="text">The file.</param>
    public static OwnFoldersText? Read(string text)
    {
        if (!text.StartsWith(Title, StringComparison.Ordinal)) return null;
        var read = new OwnFoldersText(FoldersIn(
            [.. text[Title.Length..].Split('\n').TakeWhile(line => line.StartsWith("# ", StringComparison.Ordinal))]));
        return read.Compose() == text ? read : null;
    }

    /// <summary>The comments that name folders, for the check that reads them.</summary>
    internal static string Marks(IReadOnlyList<OwnFolders> folders) => string.Concat(
        folders.SelectMany(one => one.Paths.Select(path => $"# {OwnFolderRow.Find(one.Kind).Word} {path}\n")));

    /// <summary>The folders that comments name.</summary>
    internal static IReadOnlyList<OwnFolders> FoldersIn(IReadOnlyList<string> comments)
    {
        var found = new List<OwnFolders>();
        foreach (var row in OwnFolderRow.All)
        {
            var paths = LauncherText.PathsIn(comments, $"# {row.Word} ");
            if (paths.Count > 0) found.Add(new OwnFolders(row.Kind, paths));
        }

        return found;
    }

    /// <summary>The lines that set the variables, for folders below <c>$app</c>.</summary>
    internal static string Settings(IReadOnlyList<OwnFolders> folders)
    {
        var text = new StringBuilder();
        foreach (var one in folders)
        {
            var row = OwnFolderRow.Find(one.Kind);
            var own = string.Join(':', one.Paths.Select(path => $"$app/{LauncherText.Quoted(path.Text)}"));

            // An empty part of such a list means the current folder: there must be none.
            text.Append(row.Variable).Append("=\"").Append(own).Append(row.Otherwise.Length > 0
                ? $":${{{row.Variable}:-{row.Otherwise}}}"
                : $"${{{row.Variable}:+:${row.Variable}}}").Append("\"\nexport ").Append(row.Variable).Append('\n');
        }

        return text.ToString();
    }
}
