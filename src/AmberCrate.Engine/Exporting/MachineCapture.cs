using AmberCrate.Core.Bundles;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Exporting;

/// <summary>Writes this machine down as a bundle.</summary>
/// <param name="session">The session.</param>
/// <param name="scope">Whose apps they are.</param>
/// <param name="catalogues">The catalogues.</param>
internal sealed class MachineCapture(Session session, InstallScope scope, KnownCatalogues catalogues)
{
    /// <summary>The bundle of some apps of this machine.</summary>
    /// <param name="apps">The apps.</param>
    /// <param name="pins">The pins.</param>
    /// <param name="versions">What is written about versions.</param>
    /// <param name="title">What it is called; null for the machine's name.</param>
    public Bundle Capture(
        IReadOnlyCollection<InstalledApp> apps, IReadOnlyList<Pin> pins, BundleVersions versions, string? title)
    {
        var capture = new BundleCapture(session.Host.MachineName, session.Today)
        {
            Tool = $"acrate {ComponentVersions.Program}", IsForAllUsers = scope == InstallScope.AllUsers,
        };
        return BundleCapturing.Capture(apps, catalogues.ForBundle(), capture, versions, title, pins);
    }

    /// <summary>The same bundle with what others have put on the machine: what a catalogue has as entries, the rest as left
    /// behind.</summary>
    /// <param name="bundle">The bundle.</param>
    /// <param name="only">The only catalogue that is wanted; null for all.</param>
    /// <param name="apps">What others have put on the machine.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public Bundle WithObserved(Bundle bundle, string? only, ObservedApps apps, CancellationToken cancel)
    {
        // Another root is another machine: what this one has of others is not there.
        var matches = apps.Match(apps.Find(cancel, session.Root), cancel);
        var listed = bundle.Apps.Select(app => app.Reference.Name).ToHashSet(StringComparer.Ordinal);
        var covered = matches.Where(match => match is { Catalogue: not null, IsInstalled: false, Offered: not null })
            .Where(match => only is null || match.Catalogue!.Text == only)
            .DistinctBy(match => match.App).Where(match => listed.Add(match.App!.Text))
            .OrderBy(match => match.App!.Text, StringComparer.Ordinal).ToList();
        var used = covered.Select(match => match.Catalogue!).Concat(bundle.Catalogues.Select(one => one.Name)).ToHashSet();
        return bundle with
        {
            Catalogues = [.. catalogues.ForBundle().Where(catalogue => used.Contains(catalogue.Name))],
            Apps =
            [
                .. bundle.Apps, .. covered.Select(match =>
                    new BundleApp(new AppReference(match.Catalogue, match.App!.Text, null), null) { IsObserved = true }),
            ],
            LeftBehind = only is not null ? bundle.LeftBehind :
            [
                .. bundle.LeftBehind,
                .. matches.Where(IsWorthNaming).OrderBy(match => match.Observed.Name, StringComparer.Ordinal).Select(Behind),
            ],
        };
    }

    /// <summary>
    /// Whether someone may miss it on the new machine: what has a menu entry, or is beside the system's own. Of the thousands
    /// of packages of a system no other is named.
    /// </summary>
    private static bool IsWorthNaming(ObservedMatch match) => match.Catalogue is null && !match.Observed.IsProtected
        && match.Observed is not { Kind: ObservedKind.SystemPackage, DesktopIds.Count: 0 };

    private static LeftBehind Behind(ObservedMatch match) =>
        new(match.Observed.Name, $"{match.Observed.KindWords}, in no catalogue")
        {
            Version = match.Observed.VersionText,
            Seen = match.Observed.Places is { Count: > 0 } places ? string.Join(", ", places) : null,
        };
}
