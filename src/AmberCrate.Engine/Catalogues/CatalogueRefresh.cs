using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Running;
using AmberCrate.Engine.Transfers;

namespace AmberCrate.Engine.Catalogues;

/// <summary>Brings the cache up to date with what is at a catalogue's location: all of it, or nothing.</summary>
public sealed class CatalogueRefresh(CatalogueCache cache, Fetcher fetcher, TimeProvider clock)
{
    /// <summary>Brings one catalogue up to date. A failure is part of the result, and leaves the old state.</summary>
    public async Task<RefreshResult> RunAsync(RegisteredCatalogue catalogue, CancellationToken cancel)
    {
        var known = cache.StateOf(catalogue);
        try
        {
            var snapshot = await ReadAsync(catalogue.Location, known?.Mark, cancel);
            if (snapshot is null)
            {
                cache.Touch(catalogue.Name, clock.GetUtcNow());
                return new RefreshResult(catalogue, cache.StateOf(catalogue), false, 0, 0, null);
            }

            var before = known?.Apps;
            var read = await cache.StoreAsync(catalogue, snapshot, clock.GetUtcNow(), cancel);
            var state = cache.StateOf(catalogue)!;
            return new RefreshResult(catalogue, state, read > 0 || before != state.Apps, read, snapshot.Shards.Count, null);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            return new RefreshResult(catalogue, known, false, 0, 0, IoProblems.Of(fault, $"the catalogue {catalogue.Name} cannot be refreshed"));
        }
    }

    /// <summary>Brings a location into the form in which it is kept: an address, or an absolute path.</summary>
    /// <exception cref="ProblemException">It is neither an http address nor a folder.</exception>
    public static string Normalise(string location)
    {
        if (location.Contains("://", StringComparison.Ordinal))
        {
            if (!Uri.TryCreate(location, UriKind.Absolute, out var uri) || !(uri.Scheme == Uri.UriSchemeHttp || uri.Scheme == Uri.UriSchemeHttps || uri.Scheme == Uri.UriSchemeFile))
                throw new Problem(ProblemCode.BadCommandLine, $"\"{location}\" is not a location of a catalogue", "expected a folder, or an http:, https: or file: address").ToException();
            if (uri.UserInfo.Length > 0)
                throw new Problem(ProblemCode.BadCommandLine, "a location cannot carry a user or password", "it would be shown in lists and written into bundles").ToException();
            if (!uri.IsFile) return WithoutDocument(uri.GetLeftPart(UriPartial.Path));
            location = uri.LocalPath;
        }

        var folder = Path.GetFullPath(WithoutDocument(location));
        return Directory.Exists(folder) ? folder.Length > 1 ? folder.TrimEnd('/') : folder
            : throw new Problem(ProblemCode.NothingMatched, $"there is no folder {folder}", Remedy: "a catalogue is a folder of cards, a published tree or its http address").ToException();
    }

    private static string WithoutDocument(string location) =>
        location.EndsWith("/" + CatalogueDocument.FileName, StringComparison.Ordinal) ? location[..^(CatalogueDocument.FileName.Length + 1)] : location;

    private async Task<CatalogueSnapshot?> ReadAsync(string location, string? mark, CancellationToken cancel)
    {
        if (location.Contains("://", StringComparison.Ordinal))
            return await new PublishedCatalogue(new Uri(location.TrimEnd('/') + "/"), fetcher).ReadSnapshotAsync(mark, cancel);
        if (!Directory.Exists(location))
            throw new Problem(ProblemCode.Unreachable, $"there is no folder {location}", Remedy: "mount it, or drop the catalogue").ToException();
        if (File.Exists(Path.Combine(location, CatalogueDocument.FileName)))
            return await new PublishedCatalogue(FileAddress.OfFolder(location), fetcher).ReadSnapshotAsync(mark, cancel);
        return new CardFolder(location).ReadSnapshot();
    }
}
