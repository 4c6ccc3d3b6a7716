using System.Text;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Placements;

namespace AmberCrate.Engine.Observing;

/// <summary>Reads the launchers on the shelf, and finds the apps that they borrow from.</summary>
internal static class LauncherFile
{
    private const int Longest = 64 << 10;

    /// <summary>The launcher that acrate wrote to a path; null for every other file.</summary>
    /// <param name="file">The file; not a link.</param>
    public static LauncherText? Read(string file) =>
        Path.GetFileName(Path.GetDirectoryName(file)) == Placement.LauncherFolder && File.Exists(file)
            && new FileInfo(file).Length <= Longest
            ? LauncherText.Read(TextOf(file))
            : null;

    /// <summary>
    /// The apps that the launchers in a shelf entry borrow from, if they are on the same shelf: the link to the current version
    /// of each, and the folder of that version. A link that leads elsewhere is not followed.
    /// </summary>
    /// <param name="shelfFolder">The shelf entry.</param>
    public static IReadOnlyList<(string Link, string Folder)> FindLenders(string shelfFolder)
    {
        var launchers = Path.Combine(shelfFolder, Placement.LauncherFolder);
        if (!Directory.Exists(launchers)) return [];

        // Seen through the link to the current version, the shelf entry would be at another depth.
        var entry = new DirectoryInfo(shelfFolder).ResolveLinkTarget(returnFinalTarget: true)?.FullName ?? shelfFolder;
        var borrowed = Directory.EnumerateFiles(launchers).Select(Read).OfType<LauncherText>().SelectMany(one => one.Borrows);
        var shelf = Path.GetDirectoryName(Path.GetDirectoryName(entry))!;
        return [.. borrowed.Distinct()
            .Select(app => (App: app, Link: Path.GetFullPath(Path.Combine(entry, LauncherText.FrontOf(app)))))
            .Where(lender => Directory.Exists(lender.Link))
            .Select(lender => (lender.App, lender.Link, Folder: TargetOf(lender.Link)))
            .Where(lender => Path.GetDirectoryName(lender.Folder) == Path.Combine(shelf, lender.App.Text))
            .Select(lender => (lender.Link, lender.Folder!))];
    }

    /// <summary>The folders of a kind that an app lends, absolute.</summary>
    /// <param name="shelfFolder">The shelf entry of that app.</param>
    /// <param name="kind">What is in the folders.</param>
    public static IEnumerable<string> FoldersLent(string shelfFolder, OwnFolderKind kind)
    {
        var file = Path.Combine(shelfFolder, OwnFoldersText.Place);
        return File.Exists(file) && new FileInfo(file).Length <= Longest && OwnFoldersText.Read(TextOf(file)) is { } lent
            ? lent.Folders.Where(one => one.Kind == kind).SelectMany(one => one.Paths.Select(
                path => Path.Combine(shelfFolder, path.Text)))
            : [];
    }

    private static string? TargetOf(string link) =>
        new DirectoryInfo(link).ResolveLinkTarget(returnFinalTarget: true)?.FullName;

    private static string TextOf(string path)
    {
        try
        {
            return Encoding.UTF8.GetString(File.ReadAllBytes(path));
        }
        catch (Exception unreadable) when (unreadable is IOException or UnauthorizedAccessException)
        {
            return "";
        }
    }
}
