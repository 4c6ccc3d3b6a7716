using AmberCrate.Core.Bundles;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.KitFiles;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Sessions;

/// <summary>The folders and databases of one layout, opened for an operation. Never seen outside of this project.</summary>
internal sealed class Workstation : IDisposable
{
    private const int TimeoutsOfARefresh = 20;

    private readonly Session _session;
    private readonly RunLock? _lock;
    private readonly Credentials _credentials;
    private readonly HttpSource _network;
    private readonly SchemeSource _bytes;
    private readonly List<(CatalogueName Name, string Location)> _admitted = [];
    private bool _hasToldDifferences;
    private (string Asked, CachedOffers Offers)? _offers;

    private Workstation(Session session, MachineLayout layout, RunLock? held, RecordStore records, CatalogueCache cache)
    {
        (_session, Layout, _lock, Records, Cache) = (session, layout, held, records, cache);
        var host = session.Host;
        _credentials = new Credentials(layout.CredentialsFile, host.Variable);
        _network = new HttpSource(session.Settings.NetworkTimeout, host, session.Request.IsOffline, _credentials,
            session.Settings.AllowsInternalAddresses);
        _bytes = new SchemeSource(new FileSource(), _network);
        Confinement = new Confinement();
        Placing = PlacingTools.Create(layout, host);
    }

    /// <summary>Where everything lies.</summary>
    public MachineLayout Layout { get; }

    /// <summary>What the root remembers.</summary>
    public RecordStore Records { get; }

    /// <summary>What its catalogues offer.</summary>
    public CatalogueCache Cache { get; }

    /// <summary>How foreign programs are confined.</summary>
    public Confinement Confinement { get; }

    /// <summary>The shelf and what is placed.</summary>
    public PlacingTools Placing { get; }

    /// <summary>The time now.</summary>
    public DateTimeOffset Now => _session.Host.Clock.GetUtcNow();

    /// <summary>The artifacts that have been fetched, for this and all other roots.</summary>
    public DownloadCache Downloads =>
        field ??= new DownloadCache(Layout.DownloadsFolder, _bytes, _session.Settings, _session.Host.Clock, AdmitAll)
        {
            AtHand = sha256 => Kit?.Find(sha256) is { } blob ? new KitSource(Kit, blob) : null,
            MirrorsOf = address =>
            [
                .. Records.Catalogues().Where(one => one.Mirrors.Count > 0 && CatalogueSources.AddressOf(one.Location) == address)
                    .SelectMany(one => one.Mirrors).Select(CatalogueSources.AddressOf),
            ],
        };

    /// <summary>A kit whose files are taken before any other source; null for none.</summary>
    public KitFile? Kit { get; set; }

    /// <summary>What the other scope has. Where it cannot be read it has nothing: this one does not depend on it.</summary>
    public OtherScope Other => field ??= OtherScope.Read(_session.OtherLayout, _session.Host.Clock);

    /// <summary>Opens a layout.</summary>
    /// <param name="session">The session.</param>
    /// <param name="layout">The layout.</param>
    /// <param name="held">The lock, where it is opened for changing; null for reading, which creates nothing and waits for
    /// nobody.</param>
    /// <param name="makesCache">Whether a missing catalogue cache is created, for a refresh without the lock.</param>
    /// <exception cref="ProblemException">It cannot be opened.</exception>
    public static Workstation Open(Session session, MachineLayout layout, RunLock? held, bool makesCache = false)
    {
        session.Host.Trace($"opens {layout.RecordsFile} and {layout.CataloguesFile}{(held is null ? "" : ", to change them")}");
        var records = RecordStore.Open(layout, session.Host.Clock, create: held is not null);
        try
        {
            var cache = CatalogueCache.Open(layout, held is not null || makesCache
                || (records.Catalogues().Count > 0 && layout.CanWriteCache));
            return new Workstation(session, layout, held, records, cache);
        }
        catch
        {
            records.Dispose();
            throw;
        }
    }

    /// <summary>What is on the machine now.</summary>
    public MachineState State() => new(HostPlatform.Current, Apps())
    {
        Pins = new PinList(Records.Pins(), Today), Damage = Inspector.DamageOf, Protected = _session.Settings.Protected,
        Kept = Kept, InstalledCard = app => Records.KeptCardOf(app.Id, app.Sha256)?.Card,
    };

    private KeptCard? Kept(InstalledApp app) =>
        Downloads.Has(app.Sha256) ? Records.KeptCardOf(app.Id, app.Sha256) : null;

    /// <summary>What is on the machine now, where many apps will be held against the disk: that is done on every
    /// processor.</summary>
    /// <param name="names">The ids of these apps, or what a bundle calls them.</param>
    public MachineState StateInspecting(IEnumerable<string> names)
    {
        const int many = 50;
        var (state, wanted) = (State(), names.ToHashSet(StringComparer.Ordinal));
        if (wanted.Count < many) return state;
        var damage = state.Apps.Where(app => wanted.Contains(app.Id.Text)).AsParallel()
            .Select(app => (app.Id, Damage: Inspector.DamageOf(app))).ToDictionary(one => one.Id, one => one.Damage);
        return new MachineState(state.Platform, state.Apps)
        {
            Pins = state.Pins, Protected = state.Protected, Kept = state.Kept, InstalledCard = state.InstalledCard,
            Damage = app => damage.TryGetValue(app.Id, out var found) ? found : Inspector.DamageOf(app),
        };
    }

    /// <summary>What is on the machine now, with the versions that apps tell themselves.</summary>
    /// <param name="cancel">Cancels the operation.</param>
    public MachineState StateWithRealVersions(CancellationToken cancel)
    {
        var state = State();
        return state.Apps.All(app => app.VersionSource is null) ? state : state.With(
            new VersionReading(Layout, Placing.Shelf, Confinement).Read(state.Apps, text => _session.Note(text), cancel));
    }

    /// <summary>Compares records with the disk.</summary>
    public AppInspector Inspector => field ??= new AppInspector(Layout, Placing);

    /// <summary>The day, where the machine is.</summary>
    public DateOnly Today => DateOnly.FromDateTime(_session.Host.Clock.GetLocalNow().DateTime);

    /// <summary>The installed apps, as the disk has them where the records are older. That is said.</summary>
    private IReadOnlyList<InstalledApp> Apps()
    {
        var apps = Records.Apps();
        if (!_hasToldDifferences)
            foreach (var problem in Records.Unreadable())
                _session.Note($"{problem.What}, and the app is left out: {problem.Why}; {problem.Remedy}");
        var open = Records.Intentions().Select(intention => intention.Id.Text).ToHashSet(StringComparer.Ordinal);
        var differences = new ShelfVersusRecords(Layout, Placing.Shelf).Differences(apps, open);
        if (differences.Count == 0)
        {
            _hasToldDifferences = true;
            return apps;
        }

        if (!_hasToldDifferences)
            _session.Note($"the records are older than this machine: {RecordDifference.Words(differences)}");
        _hasToldDifferences = true;
        var changed = differences.Select(one => (one.Record ?? one.Disk)!.Id).ToHashSet();
        return [.. apps.Where(app => !changed.Contains(app.Id))
            .Concat(differences.Select(one => one.Disk).OfType<InstalledApp>())
            .OrderBy(app => app.Id.Text, StringComparer.Ordinal)];
    }

    /// <summary>What the root's catalogues offer, in their order of preference; paused ones are not asked.</summary>
    public CachedOffers Offers() => OffersWith([]);

    /// <summary>The same with some more catalogues behind the others.</summary>
    public CachedOffers OffersWith(IEnumerable<CatalogueName> more)
    {
        more = [.. more];
        var asked = string.Join(' ', Records.Catalogues().Select(one => $"{one.Name} {one.IsPaused}").Concat(
            more.Select(name => name.Text)));
        if (_offers is not { } known || known.Asked != asked) _offers = known = (asked, NewOffers(more));
        return known.Offers;
    }

    private CachedOffers NewOffers(IEnumerable<CatalogueName> more)
    {
        List<CatalogueName> asked = [], paused = [];
        foreach (var catalogue in Records.Catalogues()) (catalogue.IsPaused ? paused : asked).Add(catalogue.Name);
        asked.AddRange(more);
        return new CachedOffers(
            Cache, asked, paused, NeverFetched,
            () => Layout.Scope == InstallScope.ThisUser ? [.. Other.Catalogues.Select(catalogue => catalogue.Name)] : []);
    }

    /// <summary>The catalogues as a bundle has them, in order of preference.</summary>
    public IReadOnlyList<BundleCatalogue> BundleCatalogues() =>
        [.. Records.Catalogues().Select(
            catalogue => new BundleCatalogue(catalogue.Name, catalogue.Location) { Root = catalogue.Trust.Root })];

    /// <summary>How fresh the data of the catalogues are.</summary>
    public DataFreshness Freshness()
    {
        var known = Records.Catalogues();
        var asked = known.Where(catalogue => !catalogue.IsPaused)
            .Select(catalogue => (catalogue.Name, State: Cache.StateOf(catalogue) is { } state
                ? state with { Scope = Layout.Scope }
                : null))
            .ToList();
        return new DataFreshness([.. asked.Select(one => one.State).OfType<CatalogueState>()], Now)
        {
            Known = known.Count,
            Paused = [.. known.Where(catalogue => catalogue.IsPaused).Select(catalogue => catalogue.Name)],
            NeverFetched = [.. asked.Where(one => one.State is null).Select(one => one.Name)],
            NotSigned = [.. known.Where(one => !one.IsPaused && one.Trust == CatalogueTrust.NotSigned)
                .Select(one => one.Name)],
            EndingSoon =
            [
                .. from catalogue in known
                   where catalogue is { IsPaused: false, Trust.Root: not null }
                   let first = Signed.RolesOf(catalogue.Trust.Root!)
                       .Where(role => !role.IsDelegated && role.EndsSoon(Now)).MinBy(role => role.Expires)
                   where first is not null
                   select (catalogue.Name, first.Expires),
            ],
        };
    }

    /// <summary>The catalogues that are asked and without known data, since they have never been fetched.</summary>
    public IReadOnlyList<CatalogueName> NeverFetched() =>
        [.. Records.Catalogues()
            .Where(catalogue => !catalogue.IsPaused && Cache.StateOf(catalogue) is null)
            .Select(catalogue => catalogue.Name)];

    /// <summary>
    /// The catalogues whose data are older than the user wishes, and that may be asked. One that could not be reached is left
    /// alone for a while, so that not every command waits for it.
    /// </summary>
    public IReadOnlyList<RegisteredCatalogue> StaleCatalogues()
    {
        if (_session.Settings.RefreshAfter is not { } age || _session.Request.IsOffline) return [];
        var now = Now;
        return [.. Records.Catalogues()
            .Where(catalogue => !catalogue.IsPaused && (Cache.StateOf(catalogue) is not { } state || IsStale(state)))];

        bool IsStale(CatalogueState state) =>
            DataAge.IsOver(state.Refreshed, age, now) && DataAge.IsOver(state.Tried, Settings.Respite, now);
    }

    /// <summary>The problem of an unknown catalogue name, with the known ones.</summary>
    /// <exception cref="ProblemException">There is none.</exception>
    public void RequireCatalogue(CatalogueName name)
    {
        var known = Records.Catalogues();
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
            Cache, new CatalogueSources(Paced, Signed), _credentials, Layout.CacheFolder, _session.Host.Clock)
        {
            MostTime = _session.Settings.NetworkTimeout * TimeoutsOfARefresh,
        };
        var results = await refresh.RunAsync(
            catalogues, (name, done, count) => _session.Watch(new OperationEvent.Refreshing(name, done, count)), cancel);
        _session.Watch(new OperationEvent.WorkEnds());
        _offers = null;
        return results;
    }

    /// <summary>Opens addresses of catalogues. Their files are small, so a slow server is given up on.</summary>
    private PacedSource Paced => new(_bytes, _session.Settings.NetworkTimeout, _session.Host.Clock);

    /// <summary>What is believed of signed catalogues.</summary>
    public TrustStore Signed =>
        field ??= new TrustStore(
            new TrustFolder(Layout.TrustFolder), _session.Host.Clock, _session.Request.AcceptsStale);

    /// <summary>Gives the credentials of a catalogue to its server, where it is not one of this root yet.</summary>
    public void Admit(CatalogueName name, string location) => _admitted.Add((name, location));

    /// <summary>Opens addresses of catalogues, with their credentials.</summary>
    public IByteSource Bytes()
    {
        AdmitAll();
        return Paced;
    }

    /// <summary>Fetches a small file.</summary>
    /// <param name="address">Its address.</param>
    /// <param name="most">The most bytes that it may have.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="MalformedException">It is larger.</exception>
    public async Task<byte[]> FetchAsync(Uri address, int most, CancellationToken cancel)
    {
        AdmitAll();
        using var content = await Paced.OpenAsync(new FetchRequest(address), cancel);
        return await BoundedRead.ToEndAsync(content!.Stream, most, cancel)
            ?? throw new MalformedException($"it is larger than {most >> 10} KiB");
    }

    /// <summary>What undo can need.</summary>
    public UndoNeeds UndoNeeds => new(Records, Inspector, _session.Settings.UndoDays, Now);

    /// <summary>Makes the runner of this root.</summary>
    public Runner Runner() =>
        new(
            new RunTools(Layout, Records, Downloads, Placing, Confinement), _session.Settings, _session.Host.Clock, _session.Call)
        {
            Lock = _lock, UndoFiles = () => UndoNeeds.Files.Keys.ToHashSet(StringComparer.Ordinal),
        };

    /// <summary>Makes what looks at the machine for a plan.</summary>
    /// <param name="consent">What the user has agreed to.</param>
    public PlanSurvey Survey(RunConsent consent) => new(
        Layout, Downloads, Placing, Confinement, consent, new CommandPath(Layout, _session.Host.SystemRoot,
            _session.Host.SearchPath));

    /// <inheritdoc/>
    public void Dispose()
    {
        Signed.Dispose();
        _network.Dispose();
        Cache.Dispose();
        Records.Dispose();
        _lock?.Dispose();
    }

    private void AdmitAll()
    {
        foreach (var catalogue in Records.Catalogues()) _credentials.Admit(catalogue.Name, catalogue.Location);
        foreach (var (name, location) in _admitted) _credentials.Admit(name, location);
    }
}
