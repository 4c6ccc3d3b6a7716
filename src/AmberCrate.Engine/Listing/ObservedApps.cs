using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Listing;

/// <summary>The software that others have put on the machine, and which of it a catalogue has.</summary>
/// <param name="session">The system, and who hears remarks.</param>
/// <param name="layout">Where the apps of this scope are.</param>
/// <param name="other">The apps of the other scope.</param>
/// <param name="apps">The apps of this scope.</param>
/// <param name="catalogues">What is offered.</param>
internal sealed class ObservedApps(
    Session session, MachineLayout layout, OtherScope other, InstalledApps apps, KnownCatalogues catalogues)
{
    /// <summary>Everything that others have put on the machine.</summary>
    /// <param name="cancel">Cancels the operation.</param>
    /// <param name="root">The root of the system; null for that of the session.</param>
    public IReadOnlyList<ObservedApp> Find(
        CancellationToken cancel, string? root = null) => new ObservedSoftware(
        layout, other.Layout, root ?? session.Host.SystemRoot, [.. apps.Read().Apps, .. other.Apps])
        .Find(text => session.Note(text), cancel);

    /// <summary>The software beside the apps of the catalogues.</summary>
    public IReadOnlyList<ObservedMatch> Match(IReadOnlyList<ObservedApp> observed, CancellationToken cancel)
    {
        var offers = catalogues.Offers();
        var known = catalogues.Recognise([.. observed.SelectMany(SignsOf).Distinct()])
            .ToLookup(one => one.Sign, StringComparer.Ordinal);
        var installed = apps.Read().Apps.Select(app => app.Id).ToHashSet();
        return [.. observed.Select(app =>
        {
            cancel.ThrowIfCancellationRequested();
            var found = SignsOf(app).SelectMany(sign => known[sign]).FirstOrDefault(one => IsReally(app, one, offers));
            return found is null ? new ObservedMatch(app, null, null, null) : new ObservedMatch(
                app, found.App, found.Catalogue,
                NewestReleases.VersionFor(found.Releases, HostPlatform.Current) is { } text
                && AppVersion.TryParse(text, out var version) ? version : null)
            {
                IsInstalled = installed.Contains(found.App),
            };
        })];
    }

    /// <summary>By what it is recognised, the surest first.</summary>
    private static IEnumerable<string> SignsOf(ObservedApp app)
    {
        if (app.Kind == ObservedKind.SystemPackage) yield return SoftwareFingerprints.OfPackage(app.Name);
        if (app is { Kind: ObservedKind.AppImage, Size: { } size }) yield return SoftwareFingerprints.OfAppImage(size);
        foreach (var id in app.DesktopIds) yield return SoftwareFingerprints.OfDesktopEntry(id);
        if (app.Kind == ObservedKind.DesktopEntry && app.Program is { } program)
            yield return SoftwareFingerprints.OfCommand(program);
    }

    /// <summary>A file of the same size is the same only if its digest is.</summary>
    private static bool IsReally(ObservedApp app, RecognisedApp found, CachedOffers offers)
    {
        if (app.Kind != ObservedKind.AppImage) return true;
        var digest = ShelfManifest.DigestOf(app.Places[0]);
        return offers.Find(found.App).SelectMany(offer => offer.Card.Releases).SelectMany(release => release.Artifacts)
            .Any(artifact => artifact.Sha256 == digest);
    }
}
