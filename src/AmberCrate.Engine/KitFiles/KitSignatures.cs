using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.KitFiles;

/// <summary>
/// The signatures over a kit's cards: the metadata of a signed catalogue as they were when the kit was sealed, its entry
/// document, and those parts that hold the cards; the same of other maintainers where a card is theirs. What a kit carries is
/// what a machine would fetch, so that it is checked in the same way.
/// </summary>
internal static class KitSignatures
{
    private const int MostBytes = 64 << 20;

    /// <summary>Fetches what a kit must carry, and checks that its cards are what was signed.</summary>
    /// <param name="cards">The cards, and whose they are.</param>
    /// <param name="bytes">Opens addresses.</param>
    /// <param name="holding">The digests of the parts that hold the cards.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <returns>The files by their paths in the catalogue.</returns>
    /// <exception cref="TrustException">A check has failed, or a card is another one than was signed.</exception>
    public static async Task<IReadOnlyDictionary<string, byte[]>> RecordAsync(
        SignedCards cards, IByteSource bytes, IReadOnlySet<string> holding, CancellationToken cancel)
    {
        var recorder = new Recorder(cards.Catalogue, bytes);
        await CheckAsync(cards, newest: null, recorder, parts =>
        {
            var lowest = parts.Where(part => holding.Contains(part.Key.Hex)).Select(part => part.Layer)
                .DefaultIfEmpty(-1).Min();
            return part => holding.Contains(part.Key.Hex) || part.Layer > lowest;
        }, acceptsStale: false, cancel);
        return recorder.Files;
    }

    /// <summary>
    /// Checks the cards of a catalogue in a kit, starting from what this machine knows of the catalogue: the kit's own day and
    /// its own roots are the word of whoever has made it.
    /// </summary>
    /// <param name="kit">The kit.</param>
    /// <param name="name">The catalogue.</param>
    /// <param name="root">The digest of the root that was trusted first.</param>
    /// <param name="known">What this machine believes of it, if anything.</param>
    /// <param name="now">The time now, by this machine's clock.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <returns>Why the cards cannot be checked; the user may still take them with <c>--unsigned</c>. Null if they are
    /// signed.</returns>
    /// <exception cref="ProblemException">The cards were changed.</exception>
    public static async Task<string?> VerifyAsync(
        KitFile kit, CatalogueName name, Sha256Digest root, TrustFolder known, DateTimeOffset now, CancellationToken cancel)
    {
        var blobs = kit.Manifest.Blobs.Where(blob => blob.MediaType == KitMedia.Trust && blob.Catalogue == name.Text
            && blob.Title is not null).DistinctBy(blob => blob.Title).ToDictionary(blob => blob.Title!, StringComparer.Ordinal);
        if (blobs.Count == 0) return "it carries no signatures of them";
        var offers = kit.OffersOf(name);
        if (offers.Count == 0) return null;
        var address = offers[0].Base;
        var player = new Player(address, kit, blobs);
        var newest = known.Read(root, TrustFolder.Root);
        try
        {
            var trusted = await CheckAsync(
                new SignedCards(address, root, [.. offers.Select(offer => offer.Card)], now), newest, player,
                _ => part => blobs.ContainsKey(part.Path!), acceptsStale: true, cancel);
            return BehindWords(trusted, known.Read(root, TrustFolder.Snapshot));
        }
        catch (ExpiredTrustException fault)
        {
            return $"its signatures have expired: {fault.Why}";
        }
        catch (TrustException fault) when (newest is not null && !IsKnownTo(player, newest))
        {
            return $"it was made before the keys of {name} were replaced ({fault.Check})";
        }
        catch (Exception fault) when (fault is TrustException or MalformedException)
        {
            var failed = fault as TrustException;
            throw new Problem(
                ProblemCode.NotVerified, $"the kit's cards of {name} do not verify{(failed is null ? "" : $": {failed.Check}")}",
                failed?.Why ?? fault.Message, "the kit has been changed: get it again from whoever made it")
                .ToException(fault);
        }
    }

    /// <summary>Whether the maker of the kit had this machine's newest root, or a later one.</summary>
    private static bool IsKnownTo(Player player, byte[] newest)
    {
        var version = UncheckedMetadata.Root(newest).Version;
        return player.Has($"{version}.root.json") || player.RootVersion() >= version;
    }

    /// <summary>
    /// How a kit is behind what this machine knows: apps may have been withdrawn since, or keys that have signed it. Timestamps
    /// do not count, since the same state is signed again every few days. Null where it is not behind.
    /// </summary>
    private static string? BehindWords(TrustedMetadata trusted, byte[]? snapshot)
    {
        if (snapshot is null) return null;
        foreach (var (role, rule) in UncheckedMetadata.Snapshot(snapshot).Meta)
        {
            var carried = trusted.Snapshot!.Meta.GetValueOrDefault(role)?.Version ?? 0;
            if (carried < rule.Version)
                return $"it is behind what this machine knows: version {carried} of {role}, not {rule.Version}";
        }

        return null;
    }

    private static async Task<TrustedMetadata> CheckAsync(
        SignedCards cards, byte[]? newest, IByteSource source,
        Func<IReadOnlyList<PartContent>, Func<PartContent, bool>> wants, bool acceptsStale, CancellationToken cancel)
    {
        var (address, root) = (cards.Catalogue, cards.Root);
        using var folderOfWork = WorkFolder.Make("kit");
        var work = folderOfWork.Path;
        try
        {
            var folder = new TrustFolder(work);
            if (newest is not null) folder.Write(root, TrustFolder.Root, newest);
            var refresh = new TrustRefresh([address], source, folder, root, cards.Now) { AcceptsStale = acceptsStale };
            var trusted = await refresh.RunAsync(cancel);
            var targets = new SignedTargets(address, [], source, trusted.Find, trusted.Root.IsConsistent);
            var own = (await new PublishedCatalogue(address, targets).ReadAsync(null, cancel))!;
            var (parts, signed) = (own.Parts, await ReadAsync(own.Parts, wants(own.Parts), cancel));
            if (cards.Cards.Any(card => !signed.ContainsKey(card.Id)) && trusted.Targets!.Delegations.Count > 0)
            {
                // Other maintainers signed some of the cards. Their parts are the lower layers.
                var failed = await refresh.TakeDelegatedAsync(trusted, cancel);
                parts = (await new DelegatedParts(address, targets, trusted, failed).BelowAsync(own, cancel)).Parts;
                signed = await ReadAsync(parts, wants(parts), cancel);
            }

            var missing = parts.Where(part => !wants(parts)(part)).ToList();
            foreach (var card in cards.Cards) Require(card, signed, missing);
            return trusted;
        }
        catch (ProblemException fault) when (fault.Problem.Code is ProblemCode.Unreachable or ProblemCode.NotVerified
            && source is Player)
        {
            throw new TrustException("a file of the catalogue", $"{fault.Problem.What}: {fault.Problem.Why}", "5.7", fault);
        }
    }

    /// <summary>What some parts say of each app; the highest layer has the last word.</summary>
    private static async Task<Dictionary<AppId, (int Layer, AppCard? Card)>> ReadAsync(
        IReadOnlyList<PartContent> parts, Func<PartContent, bool> isWanted, CancellationToken cancel)
    {
        var signed = new Dictionary<AppId, (int Layer, AppCard? Card)>();
        foreach (var part in parts.Where(isWanted).OrderBy(part => part.Layer))
        {
            foreach (var line in PartText.Lines(part.Unpack(await part.FetchAsync(cancel))))
            {
                var said = part.Maintainer is null ? CatalogueLine.Read(line.Span) : CatalogueLine.TryRead(line.Span);
                if (said is not null) signed[said.Id] = (part.Layer, said.Card);
            }
        }

        return signed;
    }

    /// <summary>
    /// A card must be the newest: no part of a higher layer may be missing, which could have another one.
    /// </summary>
    private static void Require(
        AppCard card, Dictionary<AppId, (int Layer, AppCard? Card)> signed, IEnumerable<PartContent> missing)
    {
        if (!signed.TryGetValue(card.Id, out var found) || missing.Any(part => part.Layer > found.Layer))
            throw new TrustException($"the card of {card.Id}", "the part that was signed with it is missing", "5.7");
        var release = card.Releases[0];
        var same = found.Card?.Releases.FirstOrDefault(one => one.Version == release.Version);
        if (same is null
            || !CardJson.Write(found.Card! with { Releases = [same] }).AsSpan().SequenceEqual(CardJson.Write(card)))
            throw new TrustException($"the card of {card.Id}", "it is another one than was signed", "5.7");
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
        public bool Has(string path) => blobs.ContainsKey(path);

        /// <summary>The version of the root that it carries without a number; 0 where that is none.</summary>
        public long RootVersion() => blobs.TryGetValue(TrustFolder.Root, out var blob)
            && RepositoryFiles.Read(kit.Read(blob, MostBytes), UncheckedMetadata.Root) is { } root ? root.Version : 0;

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
