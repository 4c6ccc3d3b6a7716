using System.Security.Cryptography;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Running;
using AmberCrate.Engine.Transfers;

namespace AmberCrate.Engine.Catalogues;

/// <summary>Writes the published form of a folder of cards: the same cards give the same bytes.</summary>
public static class CataloguePublisher
{
    private const int CompressionLevel = 19;
    private const UnixFileMode PublicMode = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    /// <summary>Checks a folder of cards and publishes it.</summary>
    /// <param name="cardsFolder">The folder of cards.</param>
    /// <param name="outFolder">The folder to publish to; files there that belong to no catalogue stay.</param>
    /// <param name="withArtifacts">Whether artifacts with relative locations are verified and copied too.</param>
    /// <param name="cancel">Stops before the entry document is written, so that the old catalogue stays whole.</param>
    /// <exception cref="ProblemException">A card has faults, or an artifact is missing or not what its card says.</exception>
    public static async Task<CatalogueDocument> PublishAsync(string cardsFolder, string outFolder, bool withArtifacts, CancellationToken cancel)
    {
        var (settings, cards) = new CardFolder(cardsFolder).Read();
        if (withArtifacts) await CopyArtifactsAsync(cards, cardsFolder, outFolder, cancel);

        // Shards first, then the entry document that names them, then what it names no longer: a reader in between sees a whole catalogue.
        var shards = new List<ShardListing>();
        using var compressor = new ZstdSharp.Compressor(CompressionLevel);
        foreach (var (apps, content) in Sharding.Divide(cards))
        {
            cancel.ThrowIfCancellationRequested();
            var packed = compressor.Wrap(content).ToArray();
            var shard = new ShardListing(Sha256Digest.FromBytes(SHA256.HashData(packed)), packed.Length, content.Length, apps);
            var path = Path.Combine(outFolder, shard.Path);
            if (!File.Exists(path) || new FileInfo(path).Length != shard.Size) AtomicFile.Write(path, packed, PublicMode);
            shards.Add(shard);
        }

        var document = new CatalogueDocument(settings, shards);
        AtomicFile.Write(Path.Combine(outFolder, CatalogueDocument.FileName), document.Write(), PublicMode);
        DropOldShards(outFolder, shards);
        return document;
    }

    private static void DropOldShards(string outFolder, List<ShardListing> shards)
    {
        var named = shards.Select(shard => Path.GetFileName(shard.Path)).ToHashSet();
        foreach (var file in Directory.EnumerateFiles(Path.Combine(outFolder, "shards"), "*.jsonl.zst").Where(file => !named.Contains(Path.GetFileName(file))))
            File.Delete(file);
    }

    private static async Task CopyArtifactsAsync(IReadOnlyList<AppCard> cards, string cardsFolder, string outFolder, CancellationToken cancel)
    {
        var problems = new List<string>();
        foreach (var (card, release, artifact) in RelativeArtifacts(cards))
        {
            var target = Path.Combine(outFolder, artifact.Location.Text);
            try
            {
                if (await VerifiedFile.FindAsync(target, artifact.DownloadSize, artifact.Sha256, cancel) is not null) continue;
                await using var source = new FileStream(Path.Combine(cardsFolder, artifact.Location.Text), FileMode.Open, FileAccess.Read);
                Directory.CreateDirectory(Path.GetDirectoryName(target)!);
                var copy = await VerifiedFile.ReceiveAsync(source, target + ".part", artifact.DownloadSize, artifact.Sha256, null, cancel);
                copy.MoveTo(target);
            }
            catch (Exception fault) when (IoProblems.IsExpected(fault))
            {
                var problem = IoProblems.Of(fault, "it cannot be copied");
                problems.Add($"{card.Id} {release.Version}: {artifact.Location}: {problem.What}{(problem.Why.Length > 0 ? $" ({problem.Why})" : "")}");
            }
        }

        if (problems.Count > 0)
        {
            throw new Problem(ProblemCode.NotVerified, $"{problems.Count} artifacts are not as their cards say", "nothing has been published", "mend the cards or the files")
            { Details = problems }.ToException();
        }
    }

    private static IEnumerable<(AppCard Card, Release Release, Artifact Artifact)> RelativeArtifacts(IReadOnlyList<AppCard> cards) =>
        from card in cards
        from release in card.Releases
        from artifact in release.Artifacts
        where artifact.Location.Absolute is null
        select (card, release, artifact);
}
