using System.Runtime.InteropServices;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Rights;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Operations;

/// <summary>One root, opened: its records, its catalogues, and whoever may change it.</summary>
public sealed class Workstation : IDisposable
{
    private readonly WorkstationSettings _settings;
    private readonly RunLock? _lock;
    private readonly Credentials _credentials;
    private readonly Fetcher _fetcher;

    private Workstation(WorkstationSettings settings, TimeProvider clock, RunLock? held, RecordStore records, CatalogueCache cache)
    {
        (_settings, Clock, _lock, Records, Cache) = (settings, clock, held, records, cache);
        _credentials = new Credentials(settings.Layout.CredentialsFile, settings.Variable);
        _fetcher = new Fetcher(settings.NetworkPatience, settings.IsOffline, _credentials);
    }

    /// <summary>Where everything lies.</summary>
    public MachineLayout Layout => _settings.Layout;

    /// <summary>Tells the time.</summary>
    public TimeProvider Clock { get; }

    /// <summary>What the root remembers.</summary>
    public RecordStore Records { get; }

    /// <summary>What its catalogues offer.</summary>
    public CatalogueCache Cache { get; }

    /// <summary>Apps that an earlier run left in the middle and that were put back when this one began.</summary>
    public IReadOnlyList<string> Reverted { get; private set; } = [];

    /// <summary>Apps that were found in place and not on record when this was opened for changing.</summary>
    public IReadOnlyList<string> NotOnRecord { get; private set; } = [];

    /// <summary>The platform of this machine.</summary>
    public static Platform Platform { get; } = Platform.Parse(RuntimeInformation.OSArchitecture switch
    {
        Architecture.X64 => "x86_64-linux-gnu",
        Architecture.Arm64 => "aarch64-linux-gnu",
        Architecture.X86 => "i386-linux-gnu",
        Architecture.Arm => "armhf-linux-gnu",
        Architecture.S390x => "s390x-linux-gnu",
        Architecture.Ppc64le => "ppc64le-linux-gnu",
        Architecture.RiscV64 => "riscv64-linux-gnu",
        _ => "any-linux-gnu",
    });

    /// <summary>Opens a root for reading. Nothing is created, and a writer is not waited for.</summary>
    public static Workstation OpenToRead(WorkstationSettings settings, TimeProvider clock) =>
        Open(settings, clock, held: null, create: false);

    /// <summary>Opens a root for changing it: takes its lock, and puts back what an earlier run left in the middle.</summary>
    /// <param name="settings">The root.</param>
    /// <param name="clock">Tells the time.</param>
    /// <param name="command">What is being done, for others to read.</param>
    /// <param name="waits">Is told who holds the lock, where it is waited for.</param>
    /// <exception cref="ProblemException">Another run holds the lock, or the root cannot be written.</exception>
    public static Workstation OpenToChange(WorkstationSettings settings, TimeProvider clock, string command, Action<string>? waits = null)
    {
        var held = RunLock.Take(settings.Layout, command, clock, settings.LockPatience, waits);
        try
        {
            return Open(settings, clock, held, create: true);
        }
        catch
        {
            held.Dispose();
            throw;
        }
    }

    /// <summary>What is on the machine now.</summary>
    public MachineState State() => new(Platform, Records.Apps());

    /// <summary>What the root's catalogues offer, in their order of preference; paused ones are not asked.</summary>
    public CachedOffers Offers() => OffersWith([]);

    /// <summary>The same with some more catalogues behind the others.</summary>
    public CachedOffers OffersWith(IEnumerable<CatalogueName> more)
    {
        List<CatalogueName> asked = [], paused = [];
        foreach (var catalogue in Records.Catalogues()) (catalogue.IsPaused ? paused : asked).Add(catalogue.Name);
        asked.AddRange(more);
        return new CachedOffers(Cache, asked, paused, NeverFetched);
    }

    /// <summary>What the catalogues that are asked are known to hold, in their order; those never fetched are left out.</summary>
    public IReadOnlyList<CatalogueState> CatalogueStates()
    {
        var states = new List<CatalogueState>();
        foreach (var catalogue in Records.Catalogues())
        {
            if (!catalogue.IsPaused && Cache.StateOf(catalogue) is { } state) states.Add(state);
        }

        return states;
    }

    /// <summary>Brings catalogues up to date, several at a time.</summary>
    /// <param name="catalogues">The catalogues.</param>
    /// <param name="watch">Is told the catalogue, and how many of its new shards have been fetched; from any thread.</param>
    /// <param name="cancel">Stops, and leaves the old states.</param>
    public Task<IReadOnlyList<RefreshResult>> RefreshAsync(IEnumerable<RegisteredCatalogue> catalogues, Action<CatalogueName, int, int>? watch, CancellationToken cancel) =>
        new CatalogueRefresh(Cache, _fetcher, _credentials, Layout.CacheFolder, Clock).RunAsync(catalogues, watch, cancel);

    /// <summary>
    /// The catalogues whose data are older than the person wishes, and that may be asked. One that could not be reached is left alone
    /// for a while, so that not every command waits for it.
    /// </summary>
    public IReadOnlyList<RegisteredCatalogue> StaleCatalogues()
    {
        var stale = new List<RegisteredCatalogue>();
        if (_settings.RefreshAfter is not { } age || _settings.IsOffline) return stale;
        var now = Clock.GetUtcNow();
        foreach (var catalogue in Records.Catalogues())
        {
            if (!catalogue.IsPaused && (Cache.StateOf(catalogue) is not { } state || (DataAge.IsOver(state.Refreshed, age, now) && DataAge.IsOver(state.Tried, WorkstationSettings.Respite, now)))) stale.Add(catalogue);
        }

        return stale;
    }

    /// <summary>The catalogues that are asked and of which nothing is known, since they have never been fetched.</summary>
    public IReadOnlyList<CatalogueName> NeverFetched() => [.. Records.Catalogues().Where(catalogue => !catalogue.IsPaused && Cache.StateOf(catalogue) is null).Select(catalogue => catalogue.Name)];

    /// <summary>Makes the runner of this root.</summary>
    public Runner Runner() => new(Layout, Records, Downloads, _settings, Clock);

    /// <summary>The artifacts that have been fetched, for this and all other roots.</summary>
    public DownloadCache Downloads => field ??= new DownloadCache(Layout.DownloadsFolder, _fetcher, _settings.Transfers, Clock, AdmitAll);

    private void AdmitAll()
    {
        foreach (var catalogue in Records.Catalogues()) _credentials.Admit(catalogue);
    }

    /// <summary>
    /// Finds out which catalogues of a bundle are new here, and fetches those into the cache, where they are of no effect
    /// until they are added.
    /// </summary>
    /// <param name="bundle">The bundle.</param>
    /// <param name="folder">The bundle's folder, from which relative locations are taken.</param>
    /// <param name="cancel">Stops fetching.</param>
    /// <exception cref="ProblemException">A catalogue of the same name is at another location here.</exception>
    public async Task<IReadOnlyList<RefreshResult>> FetchNewCataloguesAsync(Bundle bundle, string folder, CancellationToken cancel)
    {
        var known = Records.Catalogues().ToDictionary(catalogue => catalogue.Name);
        var added = new List<RegisteredCatalogue>();
        foreach (var wanted in bundle.Catalogues)
        {
            var location = wanted.Location.Contains("://", StringComparison.Ordinal) ? CatalogueRefresh.Normalise(wanted.Location) : Path.GetFullPath(wanted.Location, folder);
            if (!known.TryGetValue(wanted.Name, out var here))
            {
                added.Add(new RegisteredCatalogue(wanted.Name, location));
            }
            else if (here.Location != location)
            {
                throw new Problem(
                    ProblemCode.Refused,
                    $"the catalogue {wanted.Name} is not the same here as in the bundle",
                    $"here it is at {here.Location}, in the bundle at {location}",
                    "change the location in the bundle, or drop the catalogue here and equip again").ToException();
            }
        }

        return await RefreshAsync(added, null, cancel);
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _fetcher.Dispose();
        Cache.Dispose();
        Records.Dispose();
        _lock?.Dispose();
    }

    /// <summary>What the other scope has. Where it cannot be read it has nothing: this one does not depend on it.</summary>
    public OtherScope Other => field ??= LookAtOther();

    private OtherScope LookAtOther()
    {
        var other = _settings.OtherLayout;
        if (!File.Exists(other.RecordsFile)) return new OtherScope(other, [], null);
        try
        {
            using var records = RecordStore.Open(other, Clock, create: false);
            return new OtherScope(other, records.Apps(), null);
        }
        catch (ProblemException fault)
        {
            return new OtherScope(other, [], fault.Problem);
        }
    }

    private static Workstation Open(WorkstationSettings settings, TimeProvider clock, RunLock? held, bool create)
    {
        if (settings.Layout.Scope == InstallScope.Everyone) Posix.MakeReadableByAll();
        var records = RecordStore.Open(settings.Layout, clock, create);
        try
        {
            var cache = CatalogueCache.Open(settings.Layout, create || (records.Catalogues().Count > 0 && FolderRights.CanWriteCache(settings.Layout)));
            var station = new Workstation(settings, clock, held, records, cache);
            if (held is not null)
            {
                var runner = station.Runner();
                station.Reverted = runner.RevertUnsettled();
                station.NotOnRecord = runner.NotOnRecord();
            }

            return station;
        }
        catch
        {
            records.Dispose();
            throw;
        }
    }
}
