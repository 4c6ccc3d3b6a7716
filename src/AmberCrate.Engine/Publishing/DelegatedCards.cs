using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>
/// The apps that other maintainers have published in a folder, as machines that read it take them: checked by their signatures,
/// and only those that are left to them.
/// </summary>
internal static class DelegatedCards
{
    /// <summary>Reads them.</summary>
    /// <param name="folder">The published folder.</param>
    /// <param name="root">The digest of its root.</param>
    /// <param name="own">The catalogue's own apps, which go before theirs.</param>
    /// <param name="now">The time now.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="TrustException">Something does not verify.</exception>
    public static async Task<IReadOnlyList<AppCard>> ReadAsync(
        string folder, Sha256Digest root, IReadOnlySet<AppId> own, DateTimeOffset now, CancellationToken cancel)
    {
        var address = new Uri(Path.TrimEndingDirectorySeparator(Path.GetFullPath(folder)) + "/");
        using var folderOfWork = WorkFolder.Make("pages");
        var work = folderOfWork.Path;
        var source = new FileSource();
        var refresh = new TrustRefresh([address], source, new TrustFolder(work), root, now) { AcceptsStale = true };
        var trusted = await refresh.RunAsync(cancel);
        var failed = await refresh.TakeDelegatedAsync(trusted, cancel);
        var targets = new SignedTargets(address, [], source, trusted.Find, trusted.Root.IsConsistent);
        var others = new DelegatedParts(address, targets, trusted, failed);
        if (!others.Any) return [];
        var nothing = new CatalogueSnapshot(new CatalogueSettings(""), address, null, null, []);
        var cards = new Dictionary<AppId, AppCard?>();
        foreach (var part in (await others.BelowAsync(nothing, cancel)).Parts.OrderBy(part => part.Layer))
        {
            foreach (var line in PartText.Lines(part.Unpack(await part.FetchAsync(cancel))))
            {
                if (CatalogueLine.TryRead(line.Span) is { } said) cards[said.Id] = said.Card;
            }
        }

        // The pictures are beside the cards, and those are not here.
        return
        [
            .. cards.Where(card => !own.Contains(card.Key)).Select(card => card.Value).OfType<AppCard>()
                .Select(card => card with { Screenshots = [.. card.Screenshots.Where(one => one.BesideCards is null)] }),
        ];
    }
}
