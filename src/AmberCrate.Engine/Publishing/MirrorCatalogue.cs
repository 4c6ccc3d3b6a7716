using AmberCrate.Core.Problems;
using AmberCrate.Core.Trust;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>Keeps a complete copy of a signed catalogue, which others can read from as from the catalogue itself.</summary>
/// <param name="session">The session.</param>
public sealed class MirrorCatalogue(Session session)
{
    /// <summary>Fetches what is missing. Files that are there and match their signed digests are not fetched again.</summary>
    /// <param name="request">What to mirror.</param>
    /// <param name="cancel">Cancels the operation; the previous copy stays whole.</param>
    /// <exception cref="ProblemException">The catalogue is not signed or does not verify, or a file cannot be
    /// fetched.</exception>
    public async Task<MirrorResult> RunAsync(MirrorRequest request, CancellationToken cancel)
    {
        using var station = new RootOpener(session).ToRefresh();
        station.Catalogues.Require(request.Name);
        var catalogue = station.Records.Catalogues().First(one => one.Name == request.Name);
        if (catalogue.Trust.Root is not { } root)
            throw new Problem(
                ProblemCode.Refused, $"the catalogue {request.Name} is not signed",
                "a change to a copy would go unnoticed").ToException();
        var address = CatalogueSources.AddressOf(catalogue.Location);
        try
        {
            var bytes = station.Remote.OpenCatalogues();
            var (trusted, targets, failed) = await station.Trust.RefreshAsync(address, [], bytes, root, cancel);
            var folder = session.Host.FullPath(request.Folder);
            var mirror = new CatalogueMirror(address, bytes, new TrustFolder(station.Layout.TrustFolder), root, folder);
            foreach (var (name, why) in failed) session.Note($"the apps of {name} are not copied: {why}");
            var (fetched, size, kept) = await mirror.RunAsync(trusted, targets, request.WithArtifacts ? IsWanted : null, cancel);
            return new MirrorResult(request.Folder, fetched, size, kept);
        }
        catch (TrustException fault)
        {
            throw new Problem(
                ProblemCode.NotVerified, $"the catalogue {request.Name} does not verify: {fault.Check}", fault.Why,
                "the previous copy is unchanged; tell the maintainer").ToException(fault);
        }

        bool IsWanted(Core.Cards.AppCard card, Core.Cards.Release release, Core.Cards.Artifact artifact) =>
            (request.Apps.Count == 0 || request.Apps.Contains(card.Id.Text))
                && (request.Line is null || release.Line == request.Line)
                && (request.Platform is null || artifact.Platform.RunsOn(request.Platform));
    }
}
