using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// Brings the cache up to date with what is at the catalogues' locations: for each all of it, or nothing. Everything is
/// fetched first, several catalogues and parts at a time, into a folder beside the cache; then each catalogue is taken
/// over in one short transaction.
/// </summary>
/// <param name="cache">The local database; used by one task at a time.</param>
/// <param name="sources">Says where catalogues come from.</param>
/// <param name="credentials">What private catalogues ask for; null for none.</param>
/// <param name="incoming">A folder for what has been fetched and not taken over yet.</param>
/// <param name="clock">The clock.</param>
public sealed class CatalogueRefresh(
    CatalogueCache cache, CatalogueSources sources, Credentials? credentials, string incoming, TimeProvider clock)
{
    /// <summary>The most time that the download of one catalogue may take.</summary>
    public TimeSpan MostTime { get; init; } = TimeSpan.FromMinutes(10);

    private const int PartsAtATime = 6;
    private const string IncomingPrefix = "incoming-";

    /// <summary>
    /// Brings catalogues up to date. A failure is part of its result, leaves the old state, and does not stop the others.
    /// </summary>
    /// <param name="catalogues">The catalogues.</param>
    /// <param name="watch">Receives the catalogue, and how many of its new parts have been fetched; from any thread.</param>
    /// <param name="cancel">Stops, and leaves the old states.</param>
    public async Task<IReadOnlyList<RefreshResult>> RunAsync(
        IEnumerable<RegisteredCatalogue> catalogues, Action<CatalogueName, int, int>? watch, CancellationToken cancel)
    {
        // The database is asked before and changed after the parallel part; in it only for the parts of what has changed, by one
        // at a time.
        var one = new Lock();
        var known = catalogues
            .Select(catalogue =>
                (Catalogue: catalogue, State: cache.StateOf(catalogue), Parts: new Lazy<IReadOnlySet<string>>(() =>
        {
            lock (one) return cache.KnownParts(catalogue);
        }), Bundles: new Lazy<IReadOnlySet<string>>(() =>
        {
            lock (one) return cache.KnownBundles(catalogue);
        }))).ToList();
        DropLeftovers();
        var folder = Path.Combine(incoming, $"{IncomingPrefix}{Environment.ProcessId}");
        try
        {
            var fetched = await Task.WhenAll(
                known.Select(item => FetchAsync(
                    item.Catalogue, item.State, item.Parts, item.Bundles, Kept, folder, watch, cancel)));
            return
            [
                .. known.Zip(
                    fetched, (item, result) => TakeOver(item.Catalogue, item.State, item.Parts, result, folder, cancel)),
            ];
        }
        finally
        {
            if (Directory.Exists(folder)) Directory.Delete(folder, recursive: true);
        }

        IReadOnlyList<(Sha256Digest Key, int Layer)> Kept(RegisteredCatalogue catalogue, PartMaintainer maintainer)
        {
            lock (one) return cache.PartsOf(catalogue, maintainer);
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

    private async Task<Fetched> FetchAsync(
        RegisteredCatalogue catalogue, CatalogueState? known, Lazy<IReadOnlySet<string>> parts,
        Lazy<IReadOnlySet<string>> bundles,
        Func<RegisteredCatalogue, PartMaintainer, IReadOnlyList<(Sha256Digest Key, int Layer)>> kept, string folder,
        Action<CatalogueName, int, int>? watch, CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(MostTime);
        try
        {
            return await FetchInTimeAsync(limit.Token);
        }
        catch (OperationCanceledException late) when (!cancel.IsCancellationRequested)
        {
            return new Fetched
            {
                Problem = ProblemOf(new TimeoutException(
                    $"it was not downloaded within {MostTime.TotalMinutes:0.#} minutes", late), catalogue),
            };
        }
        catch (Exception fault) when (IsItsOwn(fault))
        {
            return new Fetched { Problem = ProblemOf(fault, catalogue) };
        }

        async Task<Fetched> FetchInTimeAsync(CancellationToken cancel)
        {
            credentials?.Admit(catalogue.Name, catalogue.Location);
            var snapshot = await sources.Open(catalogue).ReadAsync(known?.Mark, cancel);
            if (snapshot is null) return new Fetched();
            snapshot = WithFrozen(catalogue, snapshot, kept);
            var here = parts.Value;
            var wanted = snapshot.Parts.Where(part => !here.Contains(part.Key.Hex)).ToList();
            Directory.CreateDirectory(folder);
            var done = 0;
            var failed = new ConcurrentDictionary<PartMaintainer, string>();
            await Parallel.ForEachAsync(wanted, new ParallelOptions
            {
                MaxDegreeOfParallelism = PartsAtATime, CancellationToken = cancel,
            }, async (part, token) =>
            {
                try
                {
                    await File.WriteAllBytesAsync(FileOf(folder, catalogue, part), await part.FetchAsync(token), token);
                }
                catch (ProblemException fault) when (part.Maintainer is not null)
                {
                    failed[part.Maintainer] = DelegatedParts.WordsOf(fault);
                }

                watch?.Invoke(catalogue.Name, Interlocked.Increment(ref done), wanted.Count);
            });
            if (!failed.IsEmpty) snapshot = WithoutFailed(catalogue, snapshot, failed, kept);
            var texts = new Dictionary<string, byte[]>(StringComparer.Ordinal);
            foreach (var bundle in snapshot.Bundles.Where(bundle => !bundles.Value.Contains(bundle.Listing.Sha256.Hex)))
                texts[bundle.Listing.Sha256.Hex] = await bundle.FetchAsync(cancel);
            return new Fetched { Snapshot = snapshot, Bundles = texts };
        }
    }

    /// <summary>
    /// Keeps the cached parts of maintainers whose signatures do not verify now. Nothing is downloaded for them.
    /// </summary>
    private static CatalogueSnapshot WithFrozen(
        RegisteredCatalogue catalogue, CatalogueSnapshot snapshot,
        Func<RegisteredCatalogue, PartMaintainer, IReadOnlyList<(Sha256Digest Key, int Layer)>> kept) => snapshot with
        {
            Parts =
            [
                .. snapshot.Frozen.SelectMany(one => kept(catalogue, one.Maintainer).Select(part => new PartContent(
                    part.Key, (part.Layer % PartContent.LayersOfOne) + (one.Place * PartContent.LayersOfOne), null,
                    _ => throw new UnreachableException(), _ => throw new UnreachableException())
                {
                    Maintainer = one.Maintainer,
                })),
                .. snapshot.Parts,
            ],
        };

    /// <summary>
    /// Keeps the cached parts of maintainers whose new parts could not be downloaded. The snapshot gets no mark, so the next
    /// refresh tries again.
    /// </summary>
    private static CatalogueSnapshot WithoutFailed(
        RegisteredCatalogue catalogue, CatalogueSnapshot snapshot, ConcurrentDictionary<PartMaintainer, string> failed,
        Func<RegisteredCatalogue, PartMaintainer, IReadOnlyList<(Sha256Digest Key, int Layer)>> kept)
    {
        var places = snapshot.Parts.Where(part => part.Maintainer is not null).GroupBy(part => part.Maintainer!)
            .ToDictionary(group => group.Key, group => group.First().Layer / PartContent.LayersOfOne);
        List<(PartMaintainer, int, string)> frozen = [.. failed.Select(one => (one.Key, places[one.Key], one.Value))];
        var others = snapshot with
        {
            Parts = [.. snapshot.Parts.Where(part => part.Maintainer is null || !failed.ContainsKey(part.Maintainer))],
            Mark = null,
            Frozen = frozen,
        };
        return WithFrozen(catalogue, others, kept) with { Frozen = [.. snapshot.Frozen, .. frozen] };
    }

    private RefreshResult TakeOver(
        RegisteredCatalogue catalogue,
        CatalogueState? known,
        Lazy<IReadOnlySet<string>> parts,
        Fetched fetched,
        string folder,
        CancellationToken cancel)
    {
        try
        {
            if (fetched.Problem is { } problem)
            {
                cache.NoteTried(catalogue.Name, clock.GetUtcNow(), problem.Code);
                return new RefreshResult(catalogue, known, false, 0, 0, problem);
            }

            if (fetched.Snapshot is not { } snapshot)
            {
                cache.Touch(catalogue.Name, clock.GetUtcNow());
                return new RefreshResult(catalogue, cache.StateOf(catalogue), false, 0, 0, null);
            }

            var gone = cache.KnownBundles(catalogue).Except(snapshot.Bundles.Select(one => one.Listing.Sha256.Hex)).Count();
            var read = cache.Store(
                catalogue, snapshot, part => File.ReadAllBytes(FileOf(folder, catalogue, part)), fetched.Bundles,
                clock.GetUtcNow(), cancel);
            var state = cache.StateOf(catalogue)!;
            return new RefreshResult(
                catalogue, state,
                known is null || fetched.Bundles.Count > 0 || gone > 0
                    || !parts.Value.SetEquals(snapshot.Parts.Select(part => part.Key.Hex)),
                read, snapshot.Parts.Count, null)
            {
                BundlesRead = fetched.Bundles.Count, BundlesGone = gone,
            };
        }
        catch (Exception fault) when (IsItsOwn(fault))
        {
            var problem = ProblemOf(fault, catalogue);
            cache.NoteTried(catalogue.Name, clock.GetUtcNow(), problem.Code);
            return new RefreshResult(catalogue, known, false, 0, 0, problem);
        }
    }

    /// <summary>What came of asking a catalogue: nothing new, a snapshot, or a problem.</summary>
    private sealed record Fetched
    {
        public CatalogueSnapshot? Snapshot { get; init; }

        public Dictionary<string, byte[]> Bundles { get; init; } = [];

        public Problem? Problem { get; init; }
    }

    /// <summary>
    /// The problem behind a fault. An unexpected exception comes from the catalogue's data, so it fails that catalogue alone.
    /// </summary>
    private static Problem ProblemOf(Exception fault, RegisteredCatalogue catalogue)
    {
        var what = $"the catalogue {catalogue.Name} cannot be refreshed";
        return IoProblems.IsExpected(fault)
            ? IoProblems.ToProblem(fault, what)
            : new Problem(
                ProblemCode.NotVerified, what, $"its data cannot be read: {ForeignText.Words(fault)}",
                "report it to the maintainer");
    }

    /// <summary>Whether a fault is one catalogue's own; damage to the database is everybody's.</summary>
    private static bool IsItsOwn(Exception fault) =>
        fault is not (OperationCanceledException or OutOfMemoryException or DatabaseException { IsDamage: true });

    private static string FileOf(string folder, RegisteredCatalogue catalogue, PartContent part) =>
        Path.Combine(folder, $"{catalogue.Name}-{part.Key.Hex}");
}
