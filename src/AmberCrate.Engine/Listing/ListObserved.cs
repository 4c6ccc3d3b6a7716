using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Listing;

/// <summary>Lists software that others have put on the machine.</summary>
/// <param name="session">The session.</param>
public sealed class ListObserved(Session session)
{
    /// <summary>Looks for software that others installed.</summary>
    /// <param name="request">Which software, by words and catalogue.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">Nothing fits the words.</exception>
    public async Task<ObservedResult> RunAsync(ListRequest request, CancellationToken cancel)
    {
        using var station = await new RootOpener(session).ToReadFreshAsync(cancel);
        var all = Match(Find(station, cancel), station, cancel);
        List<ObservedMatch> shown = [.. all.Where(match => Has(match, request.Words)
            && (request.Catalogue is null || match.Catalogue == request.Catalogue))
            .OrderBy(match => match.Catalogue is null)
            .ThenBy(match => match.Observed is { Kind: ObservedKind.SystemPackage, DesktopIds.Count: 0 })];
        if (shown.Count == 0 && request.IsNarrow)
            throw new Problem(
                ProblemCode.NothingMatched,
                request.Words.Count > 0
                    ? $"no software that others put here has \"{string.Join(' ', request.Words)}\" in its name"
                    : "no software that others put here is recognised",
                request.Catalogue is { } only ? $"only software that {only} knows was looked for" : "",
                remedy: NextCommand.Create("list", "--observed")).ToException();
        return new ObservedResult(shown, station.Freshness());
    }

    /// <summary>Everything that others have put on the machine.</summary>
    /// <param name="station">What the operation works on.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <param name="root">The root of the system; null for that of the session.</param>
    internal IReadOnlyList<ObservedApp> Find(
        Workstation station, CancellationToken cancel, string? root = null) => new ObservedSoftware(
        station.Layout, station.Other.Layout, root ?? session.Host.SystemRoot, [.. station.State().Apps, .. station.Other.Apps])
        .Find(text => session.Note(text), cancel);

    /// <summary>The software beside the apps of the catalogues.</summary>
    internal static IReadOnlyList<ObservedMatch> Match(
        IReadOnlyList<ObservedApp> observed, Workstation station, CancellationToken cancel)
    {
        var offers = station.Offers();
        var known = station.Cache.Recognise([.. observed.SelectMany(SignsOf).Distinct()], offers.Catalogues)
            .ToLookup(one => one.Sign, StringComparer.Ordinal);
        var installed = station.Records.Ids();
        return [.. observed.Select(app =>
        {
            cancel.ThrowIfCancellationRequested();
            var found = SignsOf(app).SelectMany(sign => known[sign]).FirstOrDefault(one => IsReally(app, one, offers));
            return found is null ? new ObservedMatch(app, null, null, null) : new ObservedMatch(
                app, found.App, found.Catalogue,
                NewestReleases.VersionFor(found.Releases, HostPlatform.Current) is { } text
                && AppVersion.TryParse(text, out var version) ? version : null)
            {
                IsInstalled = installed.Contains(found.App.Text),
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

    private static bool Has(ObservedMatch match, IReadOnlyList<string> words)
    {
        var text = words.Count == 0 ? "" : SearchText.Squash($"{match.Observed.Name} {match.Observed.Title} {match.App}");
        return words.All(word => text.Contains(SearchText.Squash(word), StringComparison.Ordinal));
    }
}
