using System.Globalization;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// Brings the cache up to date with what is at the catalogues' locations. Each catalogue goes through four steps: it is fetched,
/// its files are verified and wait in a folder beside the cache (<see cref="CatalogueDownload"/>); then they are imported, and
/// committed in one short transaction. Several catalogues are fetched at a time, and each is imported as soon as it is there.
/// </summary>
/// <param name="cache">The local database.</param>
/// <param name="sources">Says where catalogues come from.</param>
/// <param name="credentials">What private catalogues ask for; null for none.</param>
/// <param name="incoming">A folder for what has been fetched and not imported yet.</param>
/// <param name="clock">The clock.</param>
public sealed class CatalogueRefresh(
    CatalogueCache cache, CatalogueSources sources, Credentials? credentials, string incoming, TimeProvider clock)
{
    /// <summary>The most time that the download of one catalogue may take.</summary>
    public TimeSpan MostTime { get; init; } = TimeSpan.FromMinutes(10);

    private const string IncomingPrefix = "incoming-";

    /// <summary>
    /// Brings catalogues up to date. A failure is part of its result, leaves the old state, and does not stop the others.
    /// </summary>
    /// <param name="catalogues">The catalogues.</param>
    /// <param name="watch">Receives the catalogue, and how many of its new parts have been fetched; from any thread.</param>
    /// <param name="cancel">Stops; catalogues that have not been imported yet keep their old states.</param>
    public async Task<IReadOnlyList<RefreshResult>> RunAsync(
        IEnumerable<RegisteredCatalogue> catalogues, Action<CatalogueName, int, int>? watch, CancellationToken cancel)
    {
        DropLeftovers();
        // One thread uses the database at a time: this one to import, or a download that asks what is there already.
        var guard = new Lock();
        var folder = Path.Combine(incoming, $"{IncomingPrefix}{Environment.ProcessId}");
        var download = new CatalogueDownload(sources, credentials, folder, MostTime);
        List<CachedCatalogue> known = [.. catalogues.Select(catalogue => new CachedCatalogue(cache, catalogue, guard))];
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        List<Task<FetchedCatalogue>> downloads = [.. known.Select(one => download.FetchAsync(one, watch, stop.Token))];
        var results = new Dictionary<CachedCatalogue, RefreshResult>();
        try
        {
            await foreach (var done in Task.WhenEach(downloads).WithCancellation(cancel))
            {
                var fetched = await done;
                lock (guard) results[fetched.Known] = Import(fetched, cancel);
            }

            return [.. known.Select(one => results[one])];
        }
        finally
        {
            // A damaged database ends the refresh while others still download into the folder.
            await stop.CancelAsync();
            await ((Task)Task.WhenAll(downloads)).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            if (Directory.Exists(folder)) Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>Brings a location into its stored form: an address, or an absolute path.</summary>
    /// <exception cref="ProblemException">It is neither an http address nor a folder.</exception>
    public static string Normalise(string location)
    {
        if (Address.Is(location))
        {
            if (!Uri.TryCreate(location, UriKind.Absolute, out var uri)
                || !(uri.Scheme == Uri.UriSchemeHttp || uri.Scheme == Uri.UriSchemeHttps || uri.Scheme == Uri.UriSchemeFile))
                throw new Problem(
                    ProblemCode.BadCommandLine, $"\"{location}\" is not a location of a catalogue",
                    "expected a folder, or an http:, https: or file: address").ToException();
            if (uri.UserInfo.Length > 0)
                throw new Problem(
                    ProblemCode.BadCommandLine, "a location cannot carry a user or password",
                    "it would be shown in lists and written into bundles").ToException();
            if (!uri.IsFile) return WithoutDocument(uri.GetLeftPart(UriPartial.Path)).TrimEnd('/') + "/";
            location = uri.LocalPath;
        }

        var folder = Path.GetFullPath(WithoutDocument(location));
        return Directory.Exists(folder) ? folder.Length > 1 ? folder.TrimEnd('/') : folder
            : throw new Problem(
                ProblemCode.NothingMatched, $"there is no folder {folder}",
                remedy: "a catalogue is a folder of cards, a published tree or its http address").ToException();
    }

    private RefreshResult Import(FetchedCatalogue fetched, CancellationToken cancel)
    {
        try
        {
            return fetched switch
            {
                FetchedCatalogue.Failed failed => Fail(failed.Known, failed.Problem),
                FetchedCatalogue.Unchanged unchanged => Touch(unchanged.Known),
                FetchedCatalogue.Changed changed => Import(changed, cancel),
                _ => throw new ArgumentOutOfRangeException(nameof(fetched)),
            };
        }
        catch (Exception fault) when (RefreshFault.IsOfCatalogue(fault))
        {
            return Fail(fetched.Known, RefreshFault.ToProblem(fault, fetched.Known.Catalogue));
        }
    }

    private RefreshResult Fail(CachedCatalogue known, Problem problem)
    {
        cache.NoteTried(known.Catalogue.Name, clock.GetUtcNow(), problem.Code);
        return new RefreshResult(known.Catalogue, known.State) { Problem = problem };
    }

    private RefreshResult Touch(CachedCatalogue known)
    {
        cache.Touch(known.Catalogue.Name, clock.GetUtcNow());
        return new RefreshResult(known.Catalogue, cache.StateOf(known.Catalogue));
    }

    private RefreshResult Import(FetchedCatalogue.Changed fetched, CancellationToken cancel)
    {
        var (known, snapshot) = (fetched.Known, fetched.Snapshot);
        var gone = known.Bundles.Except(snapshot.Bundles.Select(one => one.Listing.Sha256.Hex)).Count();
        var isChanged = known.State is null || fetched.Bundles.Count > 0 || gone > 0
            || !known.Parts.SetEquals(snapshot.Parts.Select(part => part.Key.Hex));
        var read = cache.Store(
            known.Catalogue, snapshot, fetched.ReadPart, fetched.Bundles, clock.GetUtcNow(), cancel);
        return new RefreshResult(known.Catalogue, cache.StateOf(known.Catalogue)!)
        {
            Changed = isChanged, PartsRead = read, PartsInAll = snapshot.Parts.Count, BundlesRead = fetched.Bundles.Count,
            BundlesGone = gone,
        };
    }

    /// <summary>Removes what refreshes have fetched that were killed: their folders are named after their processes.</summary>
    private void DropLeftovers()
    {
        if (!Directory.Exists(incoming)) return;
        foreach (var folder in Directory.EnumerateDirectories(incoming, IncomingPrefix + "*"))
        {
            var process = Path.GetFileName(folder)[IncomingPrefix.Length..];
            if (process == Environment.ProcessId.ToString(CultureInfo.InvariantCulture) || !Directory.Exists($"/proc/{process}"))
                DeepFolder.TryDelete(folder);
        }
    }

    private static string WithoutDocument(string location) =>
        location.EndsWith("/" + CatalogueDocument.FileName, StringComparison.Ordinal)
            ? location[..^(CatalogueDocument.FileName.Length + 1)]
            : location;
}
