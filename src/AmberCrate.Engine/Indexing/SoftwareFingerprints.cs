using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Indexing;

/// <summary>
/// By what the software of a card is recognised where others have put it: the names of system packages, of menu entries, of
/// commands, and the sizes of AppImages, whose digests are compared then.
/// </summary>
public static class SoftwareFingerprints
{
    /// <summary>The sign of a system's package.</summary>
    public static string OfPackage(string name) => $"p:{name}";

    /// <summary>The sign of a menu entry, without <c>.desktop</c>.</summary>
    public static string OfDesktopEntry(string id) => $"d:{id}";

    /// <summary>The sign of a command.</summary>
    public static string OfCommand(string name) => $"c:{name}";

    /// <summary>The sign of an AppImage of a size.</summary>
    public static string OfAppImage(long size) => $"z:{size}";

    /// <summary>The signs of a card.</summary>
    public static IReadOnlyList<string> FromCard(AppCard card) =>
    [
        .. card.SystemPackages.Select(OfPackage)
            .Concat(card.Placement.DesktopEntries.Select(entry => OfDesktopEntry(entry.Name.Text)))
            .Concat(card.Placement.Commands.Select(command => OfCommand(command.Name.Text)))
            .Concat(card.Releases.SelectMany(release => release.Artifacts)
                .Where(artifact => artifact.Format == ArtifactFormat.AppImage)
                .Select(artifact => OfAppImage(artifact.DownloadSize)))
            .Distinct(),
    ];
}
