using AmberCrate.Core.Bundles;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Sessions;

/// <summary>The catalogues of a root: what they offer, how fresh that is, and refreshing them.</summary>
/// <param name="session">The clock and the settings, and who watches a refresh.</param>
/// <param name="layout">Where everything lies.</param>
/// <param name="records">Which catalogues there are.</param>
/// <param name="cache">What was fetched of them.</param>
/// <param name="remote">Fetches.</param>
/// <param name="trust">What is believed of signed catalogues.</param>
internal sealed class KnownCatalogues(
    Session session, MachineLayout layout, RecordStore records, CatalogueCache cache, RemoteFiles remote, TrustStore trust)
{
    private const int TimeoutsOfARefresh = 20;

    private (string Asked, CachedOffers Offers)? _offers;

    /// <summary>The catalogues of the other scope; none where this is all users'.</summary>
    public Func<IReadOnlyList<CatalogueName>> OfOtherScope { get; init; } = () => [];

    /// <summary>The catalogues, in order of preference.</summary>
    public IReadOnlyList<RegisteredCatalogue> All() => records.Catalogues();

    /// <summary>The state of a catalogue's data; null where they have never been fetched.</summary>
    public CatalogueState? StateOf(RegisteredCatalogue catalogue) => cache.StateOf(catalogue);

    /// <summary>The role of a catalogue's signatures that ends first, those of other maintainers left out; null where it is not
    /// signed, or nothing is believed of it.</summary>
    public RoleState? EndsFirst(RegisteredCatalogue catalogue) => catalogue.Trust.Root is { } root
        ? trust.RolesOf(root).Where(role => !role.IsDelegated).MinBy(role => role.Expires) : null;

    /// <summary>What the root's catalogues offer, in their order of preference; paused ones are not asked.</summary>
    public CachedOffers Offers() => OffersWith([]);

    /// <summary>The same with some more catalogues behind the others.</summary>
    public CachedOffers OffersWith(IEnumerable<CatalogueName> more)
    {
        more = [.. more];
        var asked = string.Join(' ', records.Catalogues().Select(one => $"{one.Name} {one.IsPaused}").Concat(
            more.Select(name => name.Text)));
        if (_offers is not { } known || known.Asked != asked) _offers = known = (asked, NewOffers(more));
        return known.Offers;
    }

    /// <summary>The keys of the parts that hold the cards of some apps.</summary>
    public IReadOnlySet<string> PartsOf(CatalogueName name, IEnumerable<AppId> apps) => cache.PartsOf(name, apps);

    /// <summary>The bundles that some of the catalogues carry.</summary>
    public IReadOnlyList<CarriedBundle> Bundles(IReadOnlyList<CatalogueName> of) => cache.Bundles(of);

    /// <summary>The offered apps that have one of these fingerprints of software.</summary>
    public IReadOnlyList<RecognisedApp> Recognise(IReadOnlyCollection<string> fingerprints) =>
        cache.Recognise(fingerprints, Offers().Catalogues);

    private CachedOffers NewOffers(IEnumerable<CatalogueName> more)
    {
        List<CatalogueName> asked = [], paused = [];
        foreach (var catalogue in records.Catalogues()) (catalogue.IsPaused ? paused : asked).Add(catalogue.Name);
        asked.AddRange(more);
        return new CachedOffers(cache, asked, paused, NeverFetched, OfOtherScope);
    }

    /// <summary>The catalogues as a bundle has them, in order of preference.</summary>
    public IReadOnlyList<BundleCatalogue> ForBundle() =>
        [.. records.Catalogues().Select(
            catalogue => new BundleCatalogue(catalogue.Name, catalogue.Location) { Root = catalogue.Trust.Root })];

    /// <summary>How fresh the data of the catalogues are.</summary>
    public DataFreshness Freshness()
    {
        var known = records.Catalogues();
        var asked = known.Where(catalogue => !catalogue.IsPaused)
            .Select(catalogue => (catalogue.Name, State: cache.StateOf(catalogue) is { } state
                ? state with { Scope = layout.Scope }
                : null))
            .ToList();
        return new DataFreshness([.. asked.Select(one => one.State).OfType<CatalogueState>()], session.Now)
        {
            Known = known.Count,
            Paused = [.. known.Where(catalogue => catalogue.IsPaused).Select(catalogue => catalogue.Name)],
            NeverFetched = [.. asked.Where(one => one.State is null).Select(one => one.Name)],
            NotSigned = [.. known.Where(one => !one.IsPaused && one.Trust == CatalogueTrust.NotSigned)
                .Select(one => one.Name)],
            EndingSoon =
            [
                .. from catalogue in known
                   where !catalogue.IsPaused
                   let first = EndsFirst(catalogue)
                   where first?.EndsSoon(session.Now) == true
                   select (catalogue.Name, first.Expires),
            ],
        };
    }

    /// <summary>The catalogues that are asked and without known data, since they have never been fetched.</summary>
    public IReadOnlyList<CatalogueName> NeverFetched() =>
        [.. records.Catalogues()
            .Where(catalogue => !catalogue.IsPaused && cache.StateOf(catalogue) is null)
            .Select(catalogue => catalogue.Name)];

    /// <summary>
    /// The catalogues whose data are older than the user wishes, and that may be asked. One that could not be reached is left
    /// alone for a while, so that not every command waits for it.
    /// </summary>
    public IReadOnlyList<RegisteredCatalogue> Stale()
    {
        if (session.Settings.RefreshAfter is not { } age || session.Request.IsOffline) return [];
        var now = session.Now;
        return [.. records.Catalogues()
            .Where(catalogue => !catalogue.IsPaused && (cache.StateOf(catalogue) is not { } state || IsStale(state)))];

        bool IsStale(CatalogueState state) =>
            DataAge.IsOver(state.Refreshed, age, now) && DataAge.IsOver(state.Tried, Settings.Respite, now);
    }

    /// <summary>The problem of an unknown catalogue name, with the known ones.</summary>
    /// <exception cref="ProblemException">There is none.</exception>
    public void Require(CatalogueName name)
    {
        var known = records.Catalogues();
        if (known.Any(catalogue => catalogue.Name == name)) return;
        var remedy = known.Count == 0
            ? "none has been added yet"
            : $"the catalogues are: {string.Join(", ", known.Select(catalogue => catalogue.Name))}";
        throw new Problem(ProblemCode.NothingMatched, $"there is no catalogue \"{name}\"", remedy: remedy).ToException();
    }

    /// <summary>
    /// Brings catalogues up to date, several at a time. Whoever watches the session receives the progress.
    /// </summary>
    /// <param name="catalogues">The catalogues.</param>
    /// <param name="cancel">Stops, and leaves the old states.</param>
    public async Task<IReadOnlyList<RefreshResult>> RefreshAsync(
        IEnumerable<RegisteredCatalogue> catalogues, CancellationToken cancel)
    {
        var refresh = new CatalogueRefresh(
            cache, new CatalogueSources(remote.Small, trust), remote.Credentials, layout.CacheFolder, session.Host.Clock)
        {
            MostTime = session.Settings.NetworkTimeout * TimeoutsOfARefresh,
        };
        var results = await refresh.RunAsync(
            catalogues, (name, done, count) => session.Watch(new OperationEvent.Refreshing(name, done, count)), cancel);
        session.Watch(new OperationEvent.WorkEnds());
        _offers = null;
        return results;
    }
}
