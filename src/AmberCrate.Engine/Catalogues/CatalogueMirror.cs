using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// Writes the copy of a signed catalogue: first what is named, then what names it, the timestamp last, so that who reads from the
/// copy finds at any moment the previous state or the new one, whole. Signatures are copied as they are.
/// </summary>
/// <param name="address">The address of the catalogue, ending in <c>/</c>.</param>
/// <param name="bytes">Opens addresses.</param>
/// <param name="trust">What is believed.</param>
/// <param name="first">The digest of the root that was trusted first.</param>
/// <param name="folder">Where the copy is.</param>
internal sealed class CatalogueMirror(Uri address, IByteSource bytes, TrustFolder trust, Sha256Digest first, string folder)
{
    private const int MostRoot = 512 << 10;
    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    private int _fetched, _kept;
    private long _size;

    /// <summary>Copies the catalogue into the folder.</summary>
    /// <param name="trusted">What is believed now.</param>
    /// <param name="targets">Opens what was signed.</param>
    /// <param name="isWanted">Says which artifacts are wanted; null for none.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public async Task<(int Fetched, long Size, int Kept)> RunAsync(
        TrustedMetadata trusted, SignedTargets targets, Func<AppCard, Release, Artifact, bool>? isWanted,
        CancellationToken cancel)
    {
        var entries = new Dictionary<string, byte[]>(StringComparer.Ordinal);
        foreach (var path in trusted.Snapshot!.Meta.Keys.Select(trusted.TargetsOf).OfType<TargetsMetadata>()
            .SelectMany(role => role.Targets.Keys).Distinct().Where(path => trusted.Find(path) is not null))
        {
            var file = await FetchAsync(targets, path, trusted, cancel);
            if (Path.GetFileName(path) == CatalogueDocument.FileName) entries.Add(Path.GetDirectoryName(path)!, file);
        }

        foreach (var one in isWanted is null ? [] : entries.SelectMany(entry => Artifacts(entry.Key, entry.Value))
            .Where(one => isWanted(one.Card, one.Release, one.Artifact)))
            await FetchAsync(one.Artifact, cancel);
        await WriteMetadataAsync(trusted, cancel);
        foreach (var (within, entry) in entries)
            AtomicFile.Write(Path.Combine(folder, within, CatalogueDocument.FileName), entry, Mode);
        return (_fetched, _size, _kept);
    }

    private async Task<byte[]> FetchAsync(SignedTargets targets, string path, TrustedMetadata trusted, CancellationToken cancel)
    {
        var file = Path.Combine(folder, targets.FileOf(path));
        if (File.Exists(file) && await File.ReadAllBytesAsync(file, cancel) is var there && trusted.Find(path)!.Fits(there))
        {
            _kept++;
            return there;
        }

        using var content = await targets.OpenAsync(new FetchRequest(new Uri(address, path)), cancel);
        using var memory = new MemoryStream();
        await content!.Stream.CopyToAsync(memory, cancel);
        AtomicFile.Write(file, memory.ToArray(), Mode);
        Count(memory.Length);
        return memory.ToArray();
    }

    private async Task FetchAsync(Artifact artifact, CancellationToken cancel)
    {
        var target = Path.Combine(folder, artifact.Location.Text);
        if (await VerifiedFile.FindAsync(target, artifact.DownloadSize, artifact.Sha256, cancel) is not null)
        {
            _kept++;
            return;
        }

        AtomicFile.MakeFolder(Path.GetDirectoryName(target)!);
        using var content = await bytes.OpenAsync(
            new FetchRequest(artifact.Location.Resolve(address)) { WholeLength = artifact.DownloadSize, Catalogue = address },
            cancel);
        var copy = await VerifiedFile.ReceiveAsync(
            content!.Stream, target + ".part", artifact.DownloadSize, artifact.Sha256, cancel);
        copy.MoveTo(target);
        Count(artifact.DownloadSize);
    }

    /// <summary>The artifacts that are beside the catalogue, of the cards that are in force.</summary>
    private IEnumerable<(AppCard Card, Release Release, Artifact Artifact)> Artifacts(string within, byte[] entry)
    {
        var cards = new Dictionary<AppId, AppCard?>();
        foreach (var part in CatalogueDocument.Read(entry).Parts)
        {
            var content = PartText.Unpack(part, File.ReadAllBytes(Path.Combine(folder, within, part.Path)));
            foreach (var line in PartText.Lines(content))
            {
                if (CatalogueLine.TryRead(line.Span) is { } said) cards[said.Id] = said.Card;
            }
        }

        return from card in cards.Values.OfType<AppCard>()
               from release in card.Releases
               from artifact in release.Artifacts
               where artifact.Location.Absolute is null
               select (card, release, artifact);
    }

    private async Task WriteMetadataAsync(TrustedMetadata trusted, CancellationToken cancel)
    {
        for (var version = 1L; version < trusted.Root.Version; version++)
        {
            var name = $"{version}.root.json";
            if (File.Exists(Path.Combine(folder, name))) continue;
            using var content = await bytes.OpenAsync(new FetchRequest(new Uri(address, name)), cancel);
            AtomicFile.Write(
                Path.Combine(folder, name),
                await BoundedRead.ReadSignedAsync(content!.Stream, MostRoot, name, "5.3.3", cancel), Mode);
        }

        Copy(TrustFolder.Root, $"{trusted.Root.Version}.root.json");
        Copy(TrustFolder.Root, TrustFolder.Root);
        Copy(TrustFolder.Targets, Versioned("targets", trusted.Targets!.Version));
        foreach (var role in trusted.Snapshot!.Meta.Keys.Where(role => role != TargetsMetadata.TopLevel))
        {
            if (trusted.TargetsOf(role) is { } targets)
                Copy(TrustFolder.Delegated(role), Versioned(role, targets.Version));
        }

        Copy(TrustFolder.Snapshot, Versioned("snapshot", trusted.Snapshot!.Version));
        Copy(TrustFolder.Timestamp, TrustFolder.Timestamp);

        string Versioned(string name, long version) => trusted.Root.IsConsistent ? $"{version}.{name}.json" : $"{name}.json";

        void Copy(string kept, string name) =>
            AtomicFile.Write(Path.Combine(folder, name), trust.Read(first, kept)!, Mode);
    }

    private void Count(long size)
    {
        _fetched++;
        _size += size;
    }
}
