using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Drafting;

/// <summary>
/// Finds out which metainfo and which desktop entry of a package are the app's own: a package may ship variants of its program
/// and add-ons for others beside it.
/// </summary>
/// <param name="contents">The package.</param>
/// <param name="entries">Its desktop entries that menus show.</param>
/// <param name="questions">Takes what a user should look at.</param>
internal sealed class IdentityDrafter(
    PackageContents contents, IReadOnlyList<(string Path, ShippedEntry Entry)> entries, List<string> questions)
{
    private const string AddOn = "addon";

    /// <summary>The metainfo of the app; null where there is none of an app.</summary>
    public Metainfo? FindMetainfo()
    {
        var found = new List<(string Path, Metainfo Metainfo)>();
        foreach (var (path, text) in contents.Metainfo)
        {
            try
            {
                found.Add((path, MetainfoReader.Read(text)));
            }
            catch (MalformedException)
            {
                // Told among what could not be read.
            }
        }

        foreach (var (path, _) in found.Where(one => one.Metainfo.Type == AddOn))
            questions.Add($"{path} is about an add-on, and was not used.");
        var own = found.Where(one => one.Metainfo.Type != AddOn)
            .OrderByDescending(one => entries.Any(file => IsNamedBy(one.Metainfo, file.Entry)))
            .ThenByDescending(one => contents.PackageName is { } package && LastPart(one.Metainfo.Id ?? "") == package)
            .ToList();
        if (own.Count > 1) questions.Add($"It has several metainfo files; {own[0].Path} was used.");
        return own.Count > 0 ? own[0].Metainfo : null;
    }

    /// <summary>The entry of the app itself; null where none starts a program of the package.</summary>
    /// <param name="metainfo">The metainfo of the app; null where there is none.</param>
    public ShippedEntry? FindEntry(Metainfo? metainfo) => entries.Select(file => file.Entry)
        .Where(StartsOwnProgram)
        .OrderByDescending(entry => metainfo is not null && IsNamedBy(metainfo, entry))
        .ThenByDescending(entry => LastPart(entry.Name) == contents.PackageName)
        .ThenByDescending(entry => ProgramOf(entry) == contents.PackageName)
        // A variant is usually called as the app, with more behind it.
        .ThenBy(entry => entry.Name.Length)
        .FirstOrDefault();

    /// <summary>Of an AppImage the files are not known: what its entry starts is in it.</summary>
    private bool StartsOwnProgram(ShippedEntry entry) => contents.Format == ArtifactFormat.AppImage
        || contents.Files.Any(file => file.IsProgram && file.Name == ProgramOf(entry));

    private static bool IsNamedBy(Metainfo metainfo, ShippedEntry entry) =>
        metainfo.DesktopEntries.Contains(entry.Name) || entry.Name + ".desktop" == metainfo.Id || entry.Name == metainfo.Id;

    private static string? ProgramOf(ShippedEntry entry) =>
        entry.Program is { } program ? program[(program.LastIndexOf('/') + 1)..] : null;

    private static string LastPart(string id)
    {
        if (id.EndsWith(".desktop", StringComparison.Ordinal)) id = id[..^".desktop".Length];
        return id[(id.LastIndexOf('.') + 1)..].ToLowerInvariant();
    }
}
