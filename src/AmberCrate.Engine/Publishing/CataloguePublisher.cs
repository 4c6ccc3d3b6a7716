using System.Security.Cryptography;
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

namespace AmberCrate.Engine.Publishing;

/// <summary>
/// Writes the published form of a folder of cards. The same cards over the same earlier publication give the same bytes;
/// nothing changed, nothing is written again.
/// </summary>
public static class CataloguePublisher
{
    private const int CompressionLevel = 12;
    private const UnixFileMode PublicMode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    /// <summary>Checks a folder of cards and publishes it.</summary>
    /// <param name="request">What is to be published, and how.</param>
    /// <param name="machines">What each of the maintainer's machines has; null where they are not counted.</param>
    /// <param name="now">The time now.</param>
    /// <param name="cancel">Stops before the entry document is written, so that the old catalogue stays whole.</param>
    /// <exception cref="ProblemException">A card has faults, or an artifact is missing or not what its card says.</exception>
    public static async Task<Publication> PublishAsync(
        BuildRequest request, IReadOnlyCollection<IReadOnlyCollection<string>>? machines, DateTimeOffset now,
        CancellationToken cancel)
    {
        var (settings, cards) = new CardFolder(request.Cards).Read();
        var bundles = new BundleFolder(request.Cards).Read(cards);
        RequireKeys(request);
        using var alone = PublicationLock.Acquire(request.Target);
        var repository = request.Keys is { } keys ? new SignedRepository(request.Target, keys, now) : null;
        if (request.As is { } name) return await PublishAsAsync(name, request, settings, (cards, bundles), repository, cancel);
        var (files, pages) = (new PublishedFiles(request.Target), new PublishedPages(request.Target));
        if (request.WithPages) pages.RefuseForeign();
        if (request.WithArtifacts)
        {
            await CopyArtifactsAsync(cards, request, _ => true, cancel);
            files.Add(RelativeArtifacts(cards).Select(found => found.Artifact.Location.Text));
        }

        var popularity = machines is null
            ? EarlierPublication.DocumentIn(request.Target)?.Popularity
            : Popularity.Count(machines, cards.Select(card => card.Id.Text).ToHashSet(StringComparer.Ordinal));
        var (document, signing) = Publish(
            new CatalogueContent(settings, cards) { Bundles = bundles, Popularity = popularity }, request.Target, request.IsFull,
            repository, TargetsMetadata.TopLevel, cancel);
        var named = RelativeArtifacts(cards).Select(found => found.Artifact.Location.Text).ToHashSet(StringComparer.Ordinal);
        var pruned = files.Commit(named, request.IsPruning);
        var done = new Publication(document, signing, pruned, 0);
        if (request.Pages is not null && (request.WithPages || pages.AreThere))
            return await WithPagesAsync(done, cards, request, repository, now, cancel);
        pages.DropLeft();
        return done;
    }

    /// <summary>Makes the pages of what has been published, with the apps of other maintainers among them.</summary>
    private static async Task<Publication> WithPagesAsync(
        Publication done, IReadOnlyList<AppCard> cards, BuildRequest request, SignedRepository? repository, DateTimeOffset now,
        CancellationToken cancel)
    {
        var pages = new PublishedPages(request.Target);
        if (done.Signing?.Waiting.Any(role => role.Name == TargetsMetadata.TopLevel) == true)
            return done with { DoPagesWait = true };
        var (all, without) = (cards, (string?)null);
        try
        {
            var isShared = repository?.TargetsOf(TargetsMetadata.TopLevel)?.Delegations.Count > 0;
            if (isShared && pages.Root is { } root)
            {
                var own = cards.Select(card => card.Id).ToHashSet();
                var others = await DelegatedCards.ReadAsync(pages.Folder, root, own, now, cancel);
                all = [.. cards.Concat(others).OrderBy(card => card.Id.Text, StringComparer.Ordinal)];
            }
        }
        catch (Exception fault) when (fault is TrustException || IoProblems.IsExpected(fault))
        {
            without = fault is TrustException failed ? $"{failed.Check}: {failed.Why}" : fault.Message;
        }

        return done with
        {
            Pages = pages.Write(request.Pages!, done.Document, all, request, cancel),
            WithoutOthers = without,
        };
    }

    /// <summary>Publishes the part of a catalogue that is left to another maintainer, in a folder of its own.</summary>
    /// <exception cref="ProblemException">A card is not of their apps.</exception>
    private static async Task<Publication> PublishAsAsync(
        string name, BuildRequest request, CatalogueSettings settings,
        (IReadOnlyList<AppCard> Cards, IReadOnlyList<(BundleListing Listing, byte[] Text)> Bundles) content,
        SignedRepository? repository, CancellationToken cancel)
    {
        var (cards, folder) = (content.Cards, DelegatedApps.FolderOf(name));
        var delegation = repository?.TargetsOf(TargetsMetadata.TopLevel)?.Delegations.FirstOrDefault(one => one.Name == name)
            ?? throw Refused($"{request.Target} leaves no apps to \"{name}\"",
                "ask its maintainer to: acrate catalogue delegate");
        if (cards.FirstOrDefault(card => !DelegatedApps.IsLeftTo(delegation, card.Id)) is { } other)
            throw Refused(
                $"{name} may not sign {other.Id}",
                $"these apps are left to {name}: {string.Join(", ", DelegatedApps.PatternsOf(delegation))}");
        if (content.Bundles.Count > 0 || request.WithPages)
            throw Refused("bundles and pages are made by the catalogue's own maintainers", "leave them out");
        var files = new PublishedFiles(request.Target, $"{folder}/{PublishedFiles.FileName}");
        if (request.WithArtifacts)
        {
            await CopyArtifactsAsync(cards, request, files.Has, cancel);
            files.Add(RelativeArtifacts(cards).Select(found => found.Artifact.Location.Text));
        }

        var (document, signing) = Publish(
            new CatalogueContent(settings, cards), Path.Combine(request.Target, folder), request.IsFull, repository, name,
            cancel);
        var named = RelativeArtifacts(cards).Select(found => found.Artifact.Location.Text).ToHashSet(StringComparer.Ordinal);
        return new Publication(document, signing, files.Commit(named, request.IsPruning), 0);
    }

    private static ProblemException Refused(string what, string remedy) =>
        new Problem(ProblemCode.Refused, what, "nothing has been published", remedy).ToException();

    /// <summary>What has been signed must be signed again: machines that trust it would be refused what is new.</summary>
    private static void RequireKeys(BuildRequest request)
    {
        if (request.Keys is not null || !SignedRepository.IsSigned(request.Target)) return;
        throw new Problem(
            ProblemCode.Refused, $"{request.Target} is a signed catalogue", "nothing has been published",
            "name the folder of its keys with --keys; or publish to another folder").ToException();
    }

    /// <summary>Publishes cards.</summary>
    /// <param name="content">What is published.</param>
    /// <param name="outFolder">The folder to publish to.</param>
    /// <param name="full">Whether every app goes into the first layer, whatever has been published there before.</param>
    /// <param name="repository">Signs it; null to leave it unsigned.</param>
    /// <param name="role">The role that signs it; a delegated role has a folder of its own.</param>
    /// <param name="cancel">Stops before the entry document is written, so that the old catalogue stays whole.</param>
    public static (CatalogueDocument Document, Signing? Signing) Publish(
        CatalogueContent content, string outFolder, bool full, SignedRepository? repository, string role,
        CancellationToken cancel)
    {
        var lines = content.Cards.ToDictionary(card => card.Id.Text, card => CardJson.Write(card), StringComparer.Ordinal);
        var earlier = full ? null : EarlierPublication.Read(outFolder);

        // Parts first, then the entry document that names them, then the removal of what neither it nor the previous one
        // names: a reader who is in the middle has the previous entry document, and finds all that it names.
        var before = EarlierPublication.DocumentIn(outFolder);
        var document = new CatalogueDocument(content.Settings, lines.Count, Parts(lines, earlier, outFolder, cancel))
        {
            Bundles = [.. content.Bundles.Select(bundle => bundle.Listing)], Popularity = content.Popularity,
        };
        foreach (var (listing, text) in content.Bundles)
        {
            var path = Path.Combine(outFolder, listing.Path);
            if (!File.Exists(path) || new FileInfo(path).Length != listing.Size) AtomicFile.Write(path, text, PublicMode);
        }

        var entry = document.Write();
        var signing = repository is null ? null : Sign(repository, document, entry, outFolder, role);
        AtomicFile.Write(Path.Combine(outFolder, CatalogueDocument.FileName), entry, PublicMode);
        var read = ReadersFiles(repository);
        DropOld(outFolder, "parts", "*.jsonl.zst", read, document.Parts.Concat(before?.Parts ?? []).Select(part => part.Path));
        DropOld(outFolder, "bundles", "*" + Core.Bundles.Bundle.FileEnding, read,
            document.Bundles.Concat(before?.Bundles ?? []).Select(bundle => bundle.Path));
        return (document, signing);
    }

    /// <summary>The digests of files that readers may still ask for, whatever has been written since.</summary>
    private static HashSet<Sha256Digest> ReadersFiles(SignedRepository? repository) =>
        [.. repository?.ReadersFiles().Select(file => file.Value.Sha256).OfType<Sha256Digest>() ?? []];

    /// <summary>
    /// Signs the entry document, under a name that has its digest in front, and all that it names. The targets are named without
    /// the digest that begins their files' names.
    /// </summary>
    private static Signing Sign(
        SignedRepository repository, CatalogueDocument document, byte[] entry, string outFolder, string role)
    {
        var digest = Sha256Digest.FromBytes(SHA256.HashData(entry));
        var file = $"{digest.Hex}.{CatalogueDocument.FileName}";
        AtomicFile.Write(Path.Combine(outFolder, file), entry, PublicMode);
        var within = role == TargetsMetadata.TopLevel ? "" : $"{DelegatedApps.FolderOf(role)}/";
        var files = document.Parts.Select(part => part.Path).Concat(document.Bundles.Select(bundle => bundle.Path))
            .ToDictionary(path => within + WithoutDigest(path), path => within + path, StringComparer.Ordinal);
        files.Add(within + CatalogueDocument.FileName, within + file);
        var signing = repository.Sign(files, role);

        // The previous one stays: a reader who is in the middle asks for it. So does what waits for signatures, and what is
        // published as long as it does.
        var read = ReadersFiles(repository);
        var kept = new DirectoryInfo(outFolder).EnumerateFiles($"*.{CatalogueDocument.FileName}")
            .Where(one => Sha256Digest.TryParse(one.Name.Split('.')[0], out var of) && one.Name != file && !read.Contains(of))
            .OrderByDescending(one => one.LastWriteTimeUtc);
        foreach (var old in kept.Skip(1)) old.Delete();
        return signing;

        static string WithoutDigest(string path)
        {
            var slash = path.LastIndexOf('/') + 1;
            return path[..slash] + path[(path.IndexOf('.', slash) + 1)..];
        }
    }

    private static List<PartListing> Parts(
        Dictionary<string, byte[]> lines, EarlierPublication? earlier, string outFolder, CancellationToken cancel)
    {
        if (earlier is not null)
        {
            var changed = earlier.Differing(lines);
            if (changed.Count == 0) return [.. earlier.Document.Parts];
            if (LayerPlan.Create(earlier.Layers, changed, lines.Count) is { } plan)
            {
                var layer = plan.Ids.Select(AppId.Parse)
                    .Select(id => (id, lines.GetValueOrDefault(id.Text) ?? CatalogueLine.WriteGone(id)))
                    .ToList();
                return
                [
                    .. earlier.Document.Parts.Where(part => part.Layer < plan.KeptLayers),
                    .. WriteLayer(layer, plan.KeptLayers, outFolder, cancel),
                ];
            }
        }

        return [.. WriteLayer([.. lines.Select(line => (AppId.Parse(line.Key), line.Value))], 0, outFolder, cancel)];
    }

    private static ParallelQuery<PartListing> WriteLayer(
        IReadOnlyCollection<(AppId Id, byte[] Line)> lines,
        int layer,
        string outFolder,
        CancellationToken cancel) => PartDivision.Divide(lines)
        .AsParallel().AsOrdered().WithCancellation(cancel)
        .Select(part =>
        {
            using var compressor = new ZstdSharp.Compressor(CompressionLevel);
            var packed = compressor.Wrap(part.Content).ToArray();
            var listing = new PartListing(
                Sha256Digest.FromBytes(SHA256.HashData(packed)), packed.Length, part.Content.Length, part.Lines, layer);
            var path = Path.Combine(outFolder, listing.Path);
            if (!File.Exists(path) || new FileInfo(path).Length != listing.Size) AtomicFile.Write(path, packed, PublicMode);
            return listing;
        });

    /// <summary>Deletes what an earlier publication has written, and the entry document names no longer.</summary>
    private static void DropOld(
        string outFolder, string within, string pattern, HashSet<Sha256Digest> read, IEnumerable<string> paths)
    {
        var folder = Path.Combine(outFolder, within);
        if (!Directory.Exists(folder)) return;
        var named = paths.Select(path => Path.GetFileName(path)).ToHashSet();
        foreach (var file in Directory.EnumerateFiles(folder, pattern).Where(file => !named.Contains(Path.GetFileName(file))
            && Sha256Digest.TryParse(Path.GetFileName(file).Split('.')[0], out var of) && !read.Contains(of)))
            File.Delete(file);
    }

    private static async Task CopyArtifactsAsync(
        IReadOnlyList<AppCard> cards, BuildRequest request, Func<string, bool> mayReplace, CancellationToken cancel)
    {
        var artifacts = RelativeArtifacts(cards).ToList();
        var problems = new List<string>();
        foreach (var (at, (card, release, artifact)) in artifacts.Index())
        {
            request.Progress("verifying and copying artifacts", at, artifacts.Count);
            var target = Path.Combine(request.Target, artifact.Location.Text);
            try
            {
                if (await VerifiedFile.FindAsync(target, artifact.DownloadSize, artifact.Sha256, cancel) is not null) continue;
                if (File.Exists(target) && !mayReplace(artifact.Location.Text))
                    throw new IOException("another maintainer has a file of this name there");
                await using var source =
                    new FileStream(Path.Combine(request.Cards, artifact.Location.Text), FileMode.Open, FileAccess.Read);
                Directory.CreateDirectory(Path.GetDirectoryName(target)!);
                var copy =
                    await VerifiedFile.ReceiveAsync(source, target + ".part", artifact.DownloadSize, artifact.Sha256, cancel);
                copy.MoveTo(target);
            }
            catch (Exception fault) when (IoProblems.IsExpected(fault))
            {
                var problem = IoProblems.ToProblem(fault, "it cannot be copied");
                problems.Add(
                    $"{card.Id} {release.Version}: {artifact.Location}: "
                        + $"{problem.What}{(problem.Why.Length > 0 ? $" ({problem.Why})" : "")}");
            }
        }

        if (problems.Count > 0)
        {
            throw new Problem(
                ProblemCode.NotVerified, $"{problems.Count} artifacts are not as their cards say",
                "nothing has been published", "correct the cards or the files")
            { Details = [.. problems] }.ToException();
        }
    }

    private static IEnumerable<(AppCard Card, Release Release, Artifact Artifact)> RelativeArtifacts(
        IReadOnlyList<AppCard> cards) =>
        from card in cards
        from release in card.Releases
        from artifact in release.Artifacts
        where artifact.Location.Absolute is null
        select (card, release, artifact);
}
