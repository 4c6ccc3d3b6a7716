using AmberCrate.Core.Bundles;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.BundleFiles;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Bundling;

/// <summary>Looks at bundles: what is in them, whether it is still offered; and seals them.</summary>
/// <param name="session">The session.</param>
public sealed class LookAtBundle(Session session)
{
    /// <summary>What a bundle lists.</summary>
    /// <param name="named">A file, an address, or <c>catalogue:bundle</c>.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">It is not there or has faults.</exception>
    public async Task<OpenedBundle> ViewAsync(string named, CancellationToken cancel)
    {
        using var station = new RootOpener(session).ToRead();
        return await new BundleOpening(session, station.Remote, station.Catalogues).OpenAsync(named, cancel);
    }

    /// <summary>The bundles that the catalogues carry, by words.</summary>
    /// <param name="words">Words that must be in the name or title; none for all.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public async Task<IReadOnlyList<OpenedBundle>> SearchAsync(IReadOnlyList<string> words, CancellationToken cancel)
    {
        using var station = await new RootOpener(session).ToReadFreshAsync(cancel);
        var (opening, found) = (new BundleOpening(session, station.Remote, station.Catalogues), new List<OpenedBundle>());
        foreach (var carried in station.Catalogues.Bundles(station.Catalogues.Offers().Catalogues))
        {
            var name = $"{carried.Catalogue}:{carried.Name}";
            try
            {
                var opened = await opening.OpenAsync(name, cancel);
                var text = Core.Searching.SearchText.Fold($"{name} {opened.Top.Bundle.Title}");
                if (words.All(word => text.Contains(Core.Searching.SearchText.Fold(word), StringComparison.Ordinal)))
                    found.Add(opened);
            }
            catch (ProblemException faulty)
            {
                session.Note($"the bundle {name} cannot be used: {faulty.Problem.What}");
            }
        }

        return found;
    }

    /// <summary>How a bundle stands to the catalogues.</summary>
    /// <param name="named">The bundle.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">It is not there or has faults.</exception>
    public async Task<BundleCheck> CheckAsync(string named, CancellationToken cancel)
    {
        using var station = await new RootOpener(session).ToReadFreshAsync(cancel);
        var opened = await new BundleOpening(session, station.Remote, station.Catalogues).OpenAsync(named, cancel);
        var (plan, offers) = await new BundleSealing(session, station.Records, station.Catalogues)
            .PlanAsync(opened.Flat.Bundle, HostPlatform.Current, cancel);
        var findings = opened.Flat.Entries.Where(entry => entry.LeftOut is null)
            .SelectMany(entry => FindingsOf(entry, plan, offers)).ToList();
        foreach (var catalogue in opened.Flat.Bundle.Catalogues.Where(one =>
            one.Cards is { } cards && BundleSeal.DigestOf(one.Name, plan) != cards))
            findings.Add(new BundleFinding(
                BundleFindingKind.CardsChanged, null, null,
                $"what {catalogue.Name} says about these releases has changed since the bundle was sealed"));
        var open = opened.Flat.Bundle.Apps.Count(app => app.Sha256 is null);
        if (open > 0)
            findings.Add(new BundleFinding(
                BundleFindingKind.NoDigest, null, null,
                $"{open} of {opened.Flat.Bundle.Apps.Count} entries name no digest: {NextCommand.Create("bundle seal", named)}"));
        return new BundleCheck(opened, [.. findings.OrderBy(finding => finding.Kind)], station.Catalogues.Freshness());
    }

    /// <summary>Seals a bundle as a file of its own.</summary>
    /// <param name="named">The bundle.</param>
    /// <param name="file">The file to write; null for one beside it.</param>
    /// <param name="platform">The platform; null for this machine's.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">No catalogue offers one of its entries, or the file cannot be written.</exception>
    public async Task<SealResult> SealAsync(string named, string? file, Platform? platform, CancellationToken cancel)
    {
        using var station = await new RootOpener(session).ToReadFreshAsync(cancel);
        var opened = await new BundleOpening(session, station.Remote, station.Catalogues).OpenAsync(named, cancel);
        var (bundle, plan) = await new BundleSealing(session, station.Records, station.Catalogues)
            .SealAsync(opened, platform ?? HostPlatform.Current, cancel);
        var target = file ?? DefaultFile(named);
        return new SealResult(BundleFile.Create(target, BundleWriter.Write(bundle)), bundle, plan.DownloadSize);
    }

    private IEnumerable<BundleFinding> FindingsOf(
        FlatEntry entry, Plan plan, CachedOffers offers)
    {
        var (app, name) = (entry.App, entry.App.Reference.Name);
        var item = plan.Items.FirstOrDefault(one => one.Id == name)
            ?? plan.Items.FirstOrDefault(one => one.Offer?.Card.Name == name);
        if (app.Pin is { } pin && pin.IsLapsed(session.Today))
            yield return Of(BundleFindingKind.PinLapsed, $"{pin.Words}; that day is over");
        if (item is null || item.Action == PlanAction.Cannot)
        {
            var isOther = item?.Notes.Any(note => note.Problem == ProblemCode.NotVerified) == true;
            yield return Of(
                isOther ? BundleFindingKind.NotAsSealed : BundleFindingKind.NotOffered,
                item is null ? "no catalogue offers it" : item.Note);
            yield break;
        }

        if (app.Version is null || item.App is not { } id) yield break;
        var newest = ReleaseChoice.Find(
            offers.Find(id).Where(offer => offer.Catalogue == item.Offer!.Catalogue), app.Reference.Selector,
            app.Platform ?? HostPlatform.Current, app.Pin);
        if (newest is not null && newest.Release.Version > app.Version)
            yield return Of(
                BundleFindingKind.Behind, $"{app.Version} is listed, {newest.Release.Version} is available");

        BundleFinding Of(BundleFindingKind kind, Advice words) => new(kind, name, entry.Place, words);
    }

    private static string DefaultFile(string named)
    {
        var name = Path.GetFileName(named.Split(':')[^1]);
        if (name.EndsWith(Bundle.FileEnding, StringComparison.Ordinal)) name = name[..^Bundle.FileEnding.Length];
        return $"{(name is "-" or "" ? "machine" : name)}.sealed{Bundle.FileEnding}";
    }
}
