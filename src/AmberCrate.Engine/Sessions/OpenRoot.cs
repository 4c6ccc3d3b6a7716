using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.KitFiles;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Sessions;

/// <summary>
/// One root, opened: the one place that composes its parts. An operation opens it, and hands each helper the parts that the
/// helper works on.
/// </summary>
internal sealed class OpenRoot : IDisposable
{
    private readonly Session _session;
    private readonly RunLock? _lock;

    private OpenRoot(Session session, MachineLayout layout, RunLock? held, RecordStore records, CatalogueCache cache)
    {
        (_session, Layout, _lock, Records, Cache) = (session, layout, held, records, cache);
        Placing = PlacingTools.Create(layout, session.Host);
        Remote = new RemoteFiles(session, layout, records);
        Trust = new TrustStore(new TrustFolder(layout.TrustFolder), session.Host.Clock, session.Request.AcceptsStale);
        Catalogues = new KnownCatalogues(session, layout, records, cache, Remote, Trust)
        {
            OfOtherScope = () =>
                layout.Scope == InstallScope.ThisUser ? [.. Other.Catalogues.Select(catalogue => catalogue.Name)] : [],
        };
        Downloads = new DownloadCache(layout.DownloadsFolder, Remote.Artifacts, session.Settings, session.Host.Clock,
            Remote.AdmitAll)
        {
            AtHand = sha256 => Kit?.Find(sha256) is { } blob ? new KitSource(Kit, blob) : null,
            MirrorsOf = address =>
            [
                .. records.Catalogues().Where(one => one.Mirrors.Count > 0 && CatalogueSources.AddressOf(one.Location) == address)
                    .SelectMany(one => one.Mirrors).Select(CatalogueSources.AddressOf),
            ],
        };
        Apps = new InstalledApps(session, layout, records, Placing, Downloads, Confinement);
    }

    /// <summary>Where everything lies.</summary>
    public MachineLayout Layout { get; }

    /// <summary>What the root remembers.</summary>
    public RecordStore Records { get; }

    /// <summary>What is installed.</summary>
    public InstalledApps Apps { get; }

    /// <summary>Its catalogues.</summary>
    public KnownCatalogues Catalogues { get; }

    /// <summary>What was fetched of its catalogues.</summary>
    public CatalogueCache Cache { get; }

    /// <summary>What is believed of signed catalogues.</summary>
    public TrustStore Trust { get; }

    /// <summary>Small files at addresses.</summary>
    public RemoteFiles Remote { get; }

    /// <summary>The artifacts that have been fetched, for this and all other roots.</summary>
    public DownloadCache Downloads { get; }

    /// <summary>The shelf and what is placed.</summary>
    public PlacingTools Placing { get; }

    /// <summary>A kit whose files are taken before any other source; null for none.</summary>
    public KitFile? Kit { get; set; }

    /// <summary>What the other scope has. Where it cannot be read it has nothing: this one does not depend on it.</summary>
    public OtherScope Other => field ??= OtherScope.Read(_session.OtherLayout, _session.Host.Clock);

    private Confinement Confinement { get; } = new();

    /// <summary>Opens a layout.</summary>
    /// <param name="session">The session.</param>
    /// <param name="layout">The layout.</param>
    /// <param name="held">The lock, where it is opened for changing; null for reading, which creates nothing and waits for
    /// nobody.</param>
    /// <param name="makesCache">Whether a missing catalogue cache is created, for a refresh without the lock.</param>
    /// <exception cref="ProblemException">It cannot be opened.</exception>
    public static OpenRoot Open(Session session, MachineLayout layout, RunLock? held, bool makesCache = false)
    {
        session.Host.Trace($"opens {layout.RecordsFile} and {layout.CataloguesFile}{(held is null ? "" : ", to change them")}");
        var records = RecordStore.Open(layout, session.Host.Clock, create: held is not null);
        try
        {
            var cache = CatalogueCache.Open(layout, held is not null || makesCache
                || (records.Catalogues().Count > 0 && layout.CanWriteCache));
            return new OpenRoot(session, layout, held, records, cache);
        }
        catch
        {
            records.Dispose();
            throw;
        }
    }

    /// <summary>What undo can need.</summary>
    public UndoNeeds UndoNeeds => new(Records, Apps.Inspector, _session.Settings.UndoDays, _session.Now);

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
        Trust.Dispose();
        Remote.Dispose();
        Cache.Dispose();
        Records.Dispose();
        _lock?.Dispose();
    }
}
