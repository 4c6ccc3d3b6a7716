using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Kits;

/// <summary>
/// The signatures over a kit's cards: the metadata of a signed catalogue as they were when the kit was sealed, its entry
/// document, and those parts that hold the cards. What a kit carries is what a machine would fetch, so that it is checked in the
/// same way.
/// </summary>
internal static class KitSignatures
{
    private const int MostBytes = 64 << 20;

    /// <summary>Fetches what a kit must carry, and checks that its cards are what was signed.</summary>
    /// <param name="catalogue">The catalogue.</param>
    /// <param name="root">The digest of the root that was trusted first.</param>
    /// <param name="bytes">Opens addresses.</param>
    /// <param name="holding">The digests of the parts that hold the cards.</param>
    /// <param name="cards">The cards of the kit.</param>
    /// <param name="now">The time now.</param>
    /// <param name="cancel">Stops.</param>
    /// <returns>The files by their paths in the catalogue.</returns>
    /// <exception cref="TrustException">A check has failed, or a card is another one than was signed.</exception>
    public static async Task<IReadOnlyDictionary<string, byte[]>> RecordAsync(
        Uri catalogue, Sha256Digest root, IByteSource bytes, IReadOnlySet<string> holding, IReadOnlyList<AppCard> cards,
        DateTimeOffset now, CancellationToken cancel)
    {
        var recorder = new Recorder(catalogue, bytes);
        await CheckAsync(catalogue, root, recorder, parts =>
        {
            var lowest = parts.Where(part => holding.Contains(part.Sha256.Hex)).Select(part => part.Layer)
                .DefaultIfEmpty(-1).Min();
            return part => holding.Contains(part.Sha256.Hex) || part.Layer > lowest;
        }, cards, now, acceptsStale: false, cancel);
        return recorder.Files;
    }

    /// <summary>Checks the cards of a catalogue in a kit, as of the day on which it was sealed.</summary>
    /// <param name="kit">The kit.</param>
    /// <param name="name">The catalogue.</param>
    /// <param name="root">The digest of the root that was trusted first.</param>
    /// <param name="cancel">Stops.</param>
    /// <returns>Whether there was anything to check: false where the kit carries no signatures of it.</returns>
    /// <exception cref="ProblemException">They do not verify.</exception>
    public static async Task<bool> VerifyAsync(KitFile kit, CatalogueName name, Sha256Digest root, CancellationToken cancel)
    {
        var blobs = kit.Manifest.Blobs.Where(blob => blob.MediaType == KitMedia.Trust && blob.Catalogue == name.Text
            && blob.Title is not null).DistinctBy(blob => blob.Title).ToDictionary(blob => blob.Title!, StringComparer.Ordinal);
        if (blobs.Count == 0) return false;
        var offers = kit.OffersOf(name);
        if (offers.Count == 0) return true;
        var address = offers[0].Base;
        try
        {
            await CheckAsync(
                address, root, new Player(address, kit, blobs), _ => part => blobs.ContainsKey(part.Path),
                [.. offers.Select(offer => offer.Card)], kit.Manifest.Created, acceptsStale: true, cancel);
            return true;
        }
        catch (Exception fault) when (fault is TrustException or MalformedException)
        {
            var failed = fault as TrustException;
            throw new Problem(
                ProblemCode.NotVerified, $"the kit's cards of {name} do not verify{(failed is null ? "" : $": {failed.Check}")}",
                failed?.Why ?? fault.Message, "somebody has changed the kit: get it again from who has made it")
                .ToException(fault);
        }
    }

    private static async Task CheckAsync(
        Uri address, Sha256Digest root, IByteSource source, Func<IReadOnlyList<PartListing>, Func<PartListing, bool>> wants,
        IReadOnlyList<AppCard> cards, DateTimeOffset now, bool acceptsStale, CancellationToken cancel)
    {
        var work = Directory.CreateTempSubdirectory("acrate-kit-").FullName;
        try
        {
            var refresh = new TrustRefresh([address], source, new TrustFolder(work), root, now) { AcceptsStale = acceptsStale };
            var trusted = await refresh.RunAsync(cancel);
            var targets = new SignedTargets(address, [], source, trusted.Find, trusted.Root.IsConsistent);
            var document = CatalogueDocument.Read(await ReadAsync(targets, address, CatalogueDocument.FileName, cancel));
            var wanted = wants(document.Parts);
            var signed = new Dictionary<AppId, (int Layer, AppCard? Card)>();
            foreach (var part in document.Parts.Where(wanted).OrderBy(part => part.Layer))
            {
                var content = PartText.Unpack(part, await ReadAsync(targets, address, part.Path, cancel));
                foreach (var line in PartText.Lines(content).Select(line => CatalogueLine.Read(line.Span)))
                    signed[line.Id] = (part.Layer, line.Card);
            }

            foreach (var card in cards) Require(card, signed, document.Parts.Where(part => !wanted(part)));
        }
        finally
        {
            Directory.Delete(work, recursive: true);
        }
    }

    /// <summary>
    /// A card must be the one that is in force: no part of a higher layer may be missing, which could have another one.
    /// </summary>
    private static void Require(
        AppCard card, Dictionary<AppId, (int Layer, AppCard? Card)> signed, IEnumerable<PartListing> missing)
    {
        if (!signed.TryGetValue(card.Id, out var found) || missing.Any(part => part.Layer > found.Layer))
            throw new TrustException($"the card of {card.Id}", "the part that was signed with it is missing", "5.7");
        var release = card.Releases[0];
        var same = found.Card?.Releases.FirstOrDefault(one => one.Version == release.Version);
        if (same is null
            || !CardJson.Write(found.Card! with { Releases = [same] }).AsSpan().SequenceEqual(CardJson.Write(card)))
            throw new TrustException($"the card of {card.Id}", "it is another one than was signed", "5.7");
    }

    private static async Task<byte[]> ReadAsync(SignedTargets targets, Uri address, string path, CancellationToken cancel)
    {
        using var content = await targets.OpenAsync(new FetchRequest(new Uri(address, path)), cancel);
        using var memory = new MemoryStream();
        await content!.Stream.CopyToAsync(memory, cancel);
        return memory.ToArray();
    }

    private static string PathIn(Uri address, Uri file) => Uri.UnescapeDataString(address.MakeRelativeUri(file).ToString());

    /// <summary>Keeps what has been read.</summary>
    private sealed class Recorder(Uri address, IByteSource inner) : IByteSource
    {
        public SortedDictionary<string, byte[]> Files { get; } = new(StringComparer.Ordinal);

        public async Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel)
        {
            using var content = await inner.OpenAsync(request, cancel);
            var bytes = await BoundedRead.ToEndAsync(content!.Stream, MostBytes, cancel)
                ?? throw new InvalidDataException($"it is larger than {MostBytes >> 20} MiB");
            Files[PathIn(address, request.Address)] = bytes;
            return new FetchedContent(new MemoryStream(bytes, writable: false), null) { Length = bytes.Length };
        }
    }

    /// <summary>Gives what a kit carries.</summary>
    private sealed class Player(Uri address, KitFile kit, IReadOnlyDictionary<string, KitBlob> blobs) : IByteSource
    {
        public Task<FetchedContent?> OpenAsync(FetchRequest request, CancellationToken cancel)
        {
            if (!blobs.TryGetValue(PathIn(address, request.Address), out var blob))
                return Task.FromException<FetchedContent?>(new FileNotFoundException("the kit does not carry it"));
            var bytes = kit.Read(blob, MostBytes);
            return Task.FromResult<FetchedContent?>(
                new FetchedContent(new MemoryStream(bytes, writable: false), null) { Length = bytes.Length });
        }
    }
}
