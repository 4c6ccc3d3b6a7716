using System.Collections.Concurrent;
using System.Diagnostics;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// Fetches what is new of a catalogue, and verifies it. The parts wait in files until they are imported: all parts of a large
/// catalogue would not fit into memory.
/// </summary>
/// <param name="sources">Says where catalogues come from.</param>
/// <param name="credentials">What private catalogues ask for; null for none.</param>
/// <param name="folder">The folder for the files; created when it is needed.</param>
/// <param name="mostTime">The most time that the download of one catalogue may take.</param>
internal sealed class CatalogueDownload(
    CatalogueSources sources, Credentials? credentials, string folder, TimeSpan mostTime)
{
    private const int PartsAtATime = 6;

    /// <summary>Fetches a catalogue. A failure is a result, so that it does not stop the others.</summary>
    /// <param name="known">What the cache has of it.</param>
    /// <param name="watch">Receives the catalogue, and how many of its new parts have been fetched; from any thread.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public async Task<FetchedCatalogue> FetchAsync(
        CachedCatalogue known, Action<CatalogueName, int, int>? watch, CancellationToken cancel)
    {
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        limit.CancelAfter(mostTime);
        try
        {
            return await FetchNewAsync(known, watch, limit.Token);
        }
        catch (OperationCanceledException late) when (!cancel.IsCancellationRequested)
        {
            return new FetchedCatalogue.Failed(known, RefreshFault.ToProblem(
                new TimeoutException($"it was not downloaded within {mostTime.TotalMinutes:0.#} minutes", late),
                known.Catalogue));
        }
        catch (Exception fault) when (RefreshFault.IsOfCatalogue(fault))
        {
            return new FetchedCatalogue.Failed(known, RefreshFault.ToProblem(fault, known.Catalogue));
        }
    }

    private async Task<FetchedCatalogue> FetchNewAsync(
        CachedCatalogue known, Action<CatalogueName, int, int>? watch, CancellationToken cancel)
    {
        var catalogue = known.Catalogue;
        credentials?.Admit(catalogue.Name, catalogue.Location);
        var snapshot = await sources.Open(catalogue).ReadAsync(known.State?.Mark, cancel);
        if (snapshot is null) return new FetchedCatalogue.Unchanged(known);
        snapshot = WithFrozen(known, snapshot);
        var failed = await FetchPartsAsync(known, snapshot, watch, cancel);
        if (failed.Count > 0) snapshot = WithoutFailed(known, snapshot, failed);
        var texts = new Dictionary<string, byte[]>(StringComparer.Ordinal);
        foreach (var bundle in snapshot.Bundles.Where(bundle => !known.Bundles.Contains(bundle.Listing.Sha256.Hex)))
            texts[bundle.Listing.Sha256.Hex] = await bundle.FetchAsync(cancel);
        return new FetchedCatalogue.Changed(
            known, snapshot, texts, part => File.ReadAllBytes(FileOf(catalogue.Name, part)));
    }

    /// <summary>Fetches the new parts into files, several at a time.</summary>
    /// <returns>The other maintainers whose parts could not be fetched, each with the reason.</returns>
    private async Task<IReadOnlyDictionary<PartMaintainer, string>> FetchPartsAsync(
        CachedCatalogue known, CatalogueSnapshot snapshot, Action<CatalogueName, int, int>? watch, CancellationToken cancel)
    {
        var name = known.Catalogue.Name;
        var here = known.Parts;
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
                await File.WriteAllBytesAsync(FileOf(name, part), await part.FetchAsync(token), token);
            }
            catch (ProblemException fault) when (part.Maintainer is not null)
            {
                failed[part.Maintainer] = DelegatedParts.WordsOf(fault);
            }

            watch?.Invoke(name, Interlocked.Increment(ref done), wanted.Count);
        });
        return failed;
    }

    private string FileOf(CatalogueName name, PartContent part) => Path.Combine(folder, $"{name}-{part.Key.Hex}");

    /// <summary>
    /// Keeps the cached parts of maintainers whose signatures do not verify now. Nothing is downloaded for them.
    /// </summary>
    private static CatalogueSnapshot WithFrozen(
        CachedCatalogue known, CatalogueSnapshot snapshot) => snapshot with
        {
            Parts =
        [
            .. snapshot.Frozen.SelectMany(one => known.ListParts(one.Maintainer).Select(part => new PartContent(
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
        CachedCatalogue known, CatalogueSnapshot snapshot, IReadOnlyDictionary<PartMaintainer, string> failed)
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
        return WithFrozen(known, others) with { Frozen = [.. snapshot.Frozen, .. frozen] };
    }
}
