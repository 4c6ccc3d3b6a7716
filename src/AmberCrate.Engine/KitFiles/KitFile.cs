using System.Security.Cryptography;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.BundleFiles;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.KitFiles;

/// <summary>
/// A kit that is read. What is read is compared with its digest; whoever takes an artifact verifies it.
/// </summary>
public sealed class KitFile
{
    private const int MostCards = 64 << 20, MostEntries = 100_000;

    private readonly string _path;
    private readonly Dictionary<string, (long From, long Size)> _entries;

    private KitFile(string path, Dictionary<string, (long From, long Size)> entries, KitManifest manifest) =>
        (_path, _entries, Manifest) = (path, entries, manifest);

    /// <summary>What it says about itself.</summary>
    public KitManifest Manifest { get; }

    /// <summary>How many bytes all its parts have.</summary>
    public long Size => KitParts.ListFor(_path).Sum(part => new FileInfo(part).Length);

    /// <summary>Whether a file is a kit: a tar archive.</summary>
    public static bool Is(string path)
    {
        if (InputFile.IsReadOnce(path) || !File.Exists(path)) return false;
        using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite, 0);
        var block = new byte[TarHeader.BlockSize];
        return file.ReadAtLeast(block, block.Length, throwOnEndOfStream: false) == block.Length
            && "ustar"u8.SequenceEqual(block.AsSpan(257, 5));
    }

    /// <summary>Opens a kit.</summary>
    /// <exception cref="ProblemException">It is cut short, damaged, or no kit.</exception>
    public static KitFile Open(string path)
    {
        try
        {
            using var stream = new JoinedStream(KitParts.ListFor(path));
            var entries = EntriesOf(stream, path);
            var index = KitManifest.ReadIndex(Read(stream, entries, KitManifest.IndexName, null, KitManifest.MostBytes, path));
            var manifest = KitManifest.ReadManifest(
                Read(stream, entries, index.Path, index, KitManifest.MostBytes, path));
            foreach (var blob in manifest.Blobs)
            {
                if (!entries.TryGetValue(blob.Path, out var entry))
                    throw Damaged(path, $"{blob.Title ?? blob.Path} is missing").ToException();
                if (entry.Size != blob.Size)
                    throw Damaged(path, $"{blob.Title ?? blob.Path} has {entry.Size} bytes, not {blob.Size}").ToException();
            }

            return new KitFile(path, entries, manifest);
        }
        catch (Exception fault) when (fault is MalformedException or InvalidDataException or EndOfStreamException)
        {
            throw Damaged(path, fault.Message).ToException(fault);
        }
    }

    /// <summary>The sealed bundle in it, whose files it holds all.</summary>
    /// <exception cref="ProblemException">It does not verify, has faults, is not sealed, or a file of it is missing.</exception>
    public BundleLayer Bundle(string name)
    {
        var blob = Manifest.Blobs.FirstOrDefault(blob => blob.MediaType == KitMedia.Bundle)
            ?? throw Damaged(_path, "it has no bundle").ToException();
        var bundle = BundleFile.Parse(Read(blob, BundleLoading.MostBytes), $"{_path}: its bundle");
        if (bundle.Sealed is null) throw Damaged(_path, "its bundle is not sealed").ToException();
        return bundle.Apps.FirstOrDefault(app => SizeOf(app) is null) is { } missing
            ? throw Damaged(_path, $"the file of {missing.Reference.Name} is not in it").ToException()
            : new BundleLayer(name, bundle, []) { Sha256 = blob.Sha256 };
    }

    /// <summary>
    /// The size of the files of a sealed entry, in bytes; null where it does not hold them all. The digest of what comes in
    /// several
    /// files is that of no file: its card names them.
    /// </summary>
    /// <exception cref="ProblemException">Its cards do not verify, or are no cards.</exception>
    public long? SizeOf(BundleApp app)
    {
        var sizes = Sizes;
        if (sizes.TryGetValue(app.Sha256!, out var size)) return size;
        var delivery = Deliveries.GetValueOrDefault(app.Sha256!);
        return delivery?.Files.All(file => sizes.ContainsKey(file.Sha256)) == true
            ? delivery.Files.Sum(file => sizes[file.Sha256])
            : null;
    }

    private Dictionary<Sha256Digest, long> Sizes => field ??= Manifest.Blobs.DistinctBy(blob => blob.Sha256)
        .ToDictionary(blob => blob.Sha256, blob => blob.Size);

    /// <summary>What its cards deliver, by digest.</summary>
    private Dictionary<Sha256Digest, Delivery> Deliveries => field ??= ReadOffers(Manifest.Blobs)
        .SelectMany(offer => offer.Card.Releases).SelectMany(release => release.Deliveries)
        .DistinctBy(delivery => delivery.Sha256).ToDictionary(delivery => delivery.Sha256);

    /// <summary>What its cards offer.</summary>
    /// <exception cref="ProblemException">They do not verify, or are no cards.</exception>
    public CardOffers Offers() => new(ReadOffers(Manifest.Blobs));

    /// <summary>The catalogues that it has cards of.</summary>
    /// <exception cref="ProblemException">The cards do not verify, or are no cards.</exception>
    public IReadOnlyList<CatalogueName> CatalogueNames =>
        [.. ReadOffers(Manifest.Blobs).Select(offer => offer.Catalogue).Distinct()];

    /// <summary>What its cards of one catalogue offer.</summary>
    /// <exception cref="ProblemException">They do not verify, or are no cards.</exception>
    public IReadOnlyList<Offer> OffersOf(CatalogueName name) =>
        ReadOffers(Manifest.Blobs.Where(blob => blob.Catalogue == name.Text));

    private List<Offer> ReadOffers(IEnumerable<KitBlob> blobs)
    {
        var offers = new List<Offer>();
        foreach (var blob in blobs.Where(blob => blob.MediaType == KitMedia.Cards))
        {
            try
            {
                var (name, address) = (CatalogueName.Parse(blob.Catalogue ?? ""), new Uri(blob.Base ?? "", UriKind.Absolute));
                foreach (var line in Catalogues.PartText.Lines(Read(blob, MostCards)))
                    offers.Add(new Offer(name, address, CardJson.Read(line.Span)));
            }
            catch (Exception fault) when (fault is MalformedException or UriFormatException)
            {
                throw Damaged(_path, $"the cards of {blob.Catalogue}: {fault.Message}").ToException(fault);
            }
        }

        return offers;
    }

    /// <summary>Whether it holds the file of a digest.</summary>
    public bool Holds(Sha256Digest sha256) => Manifest.Blobs.Any(blob => blob.Sha256 == sha256);

    /// <summary>Opens a blob, unchecked.</summary>
    internal Stream OpenBlob(KitBlob blob)
    {
        var stream = new JoinedStream(KitParts.ListFor(_path)) { Position = _entries[blob.Path].From };
        return stream;
    }

    /// <summary>The blob of a digest; null where there is none.</summary>
    internal KitBlob? Find(Sha256Digest sha256) => Manifest.Blobs.FirstOrDefault(blob => blob.Sha256 == sha256);

    /// <summary>The faults of a kit.</summary>
    internal static Problem Damaged(string path, string why) => new(
        ProblemCode.NotVerified, $"{path} is not a whole kit", why, "copy it again from where it came");

    /// <summary>Reads a blob, which must have its digest.</summary>
    internal byte[] Read(KitBlob blob, int most)
    {
        using var stream = new JoinedStream(KitParts.ListFor(_path));
        return Read(stream, _entries, blob.Path, blob, most, _path);
    }

    private static byte[] Read(
        JoinedStream stream, Dictionary<string, (long From, long Size)> entries, string name, KitBlob? blob, int most,
        string path)
    {
        if (!entries.TryGetValue(name, out var entry)) throw new InvalidDataException($"{name} is missing");
        if (entry.Size > most) throw new InvalidDataException($"{name} is larger than {most >> 20} MiB");
        if (blob is not null && entry.Size != blob.Size)
            throw new InvalidDataException($"{name} has {entry.Size} bytes, not {blob.Size}");
        var bytes = new byte[entry.Size];
        stream.Position = entry.From;
        stream.ReadExactly(bytes);
        if (blob is not null && Sha256Digest.FromBytes(SHA256.HashData(bytes)) != blob.Sha256)
            throw Damaged(path, $"{blob.Title ?? name} does not have its digest").ToException();
        return bytes;
    }

    /// <summary>Where each file of the archive lies. Only plain files with the names of an image layout are accepted.</summary>
    private static Dictionary<string, (long From, long Size)> EntriesOf(JoinedStream stream, string path)
    {
        var entries = new Dictionary<string, (long From, long Size)>(StringComparer.Ordinal);
        var block = new byte[TarHeader.BlockSize];
        for (var at = 0L; ;)
        {
            stream.Position = at;
            if (stream.ReadAtLeast(block, block.Length, throwOnEndOfStream: false) < block.Length) throw CutShort(path);
            if (!block.AsSpan().ContainsAnyExcept((byte)0)) return entries;
            var header = new TarHeader(block);
            header.RequireChecksum();
            var (type, name, size) = (header.Type, header.Name, header.Size);
            at += TarHeader.BlockSize;
            if (type is '0' or '\0' && IsOfLayout(name))
            {
                if (!entries.TryAdd(name, (at, size))) throw new InvalidDataException($"{name} is there twice");
                if (entries.Count > MostEntries) throw new InvalidDataException("it holds too many files");
            }
            else if (type != '5') throw new InvalidDataException($"it holds \"{name}\", which does not belong in a kit");

            if (size > stream.Length - at) throw CutShort(path);
            at += size + ((TarHeader.BlockSize - (size % TarHeader.BlockSize)) % TarHeader.BlockSize);
        }
    }

    private static bool IsOfLayout(string name) => name is KitManifest.LayoutName or KitManifest.IndexName
        || (name.StartsWith("blobs/sha256/", StringComparison.Ordinal) && Sha256Digest.TryParse(name[13..], out _));

    private static ProblemException CutShort(string path) => Damaged(
        path, KitParts.MissingAmong(path) is { } missing
            ? $"{Path.GetFileName(KitParts.FileOf(path, missing))} is missing"
            : KitParts.ListFor(path).Count == 1
                ? $"it ends in the middle; if it was split, {Path.GetFileName(KitParts.FileOf(path, 2))} must be beside it"
                : $"its last part {Path.GetFileName(KitParts.ListFor(path)[^1])} ends in the middle, "
                    + "or a part behind it is missing")
        .ToException();
}
