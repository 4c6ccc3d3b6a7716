using System.Runtime.InteropServices;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Transfers;

namespace AmberCrate.Engine.Running;

/// <summary>One root, opened: its records, its catalogues, and whoever may change it.</summary>
public sealed class Workstation : IDisposable
{
    private readonly WorkstationSettings _settings;
    private readonly RunLock? _lock;
    private readonly Fetcher _fetcher;

    private Workstation(WorkstationSettings settings, TimeProvider clock, RunLock? held, RecordStore records, CatalogueCache cache)
    {
        (_settings, Clock, _lock, Records, Cache) = (settings, clock, held, records, cache);
        _fetcher = new Fetcher(settings.NetworkPatience);
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
    /// <exception cref="ProblemException">Another run holds the lock, or the root cannot be written.</exception>
    public static Workstation OpenToChange(WorkstationSettings settings, TimeProvider clock, string command)
    {
        var held = RunLock.Take(settings.Layout, command, clock);
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

    /// <summary>What the root's catalogues offer, in their order of preference.</summary>
    public CachedOffers Offers() => new(Cache, [.. Records.Catalogues().Select(catalogue => catalogue.Name)]);

    /// <summary>What the root's catalogues are known to hold, in their order; those never fetched are left out.</summary>
    public IReadOnlyList<CatalogueState> CatalogueStates() => [.. Records.Catalogues().Select(Cache.StateOf).OfType<CatalogueState>()];

    /// <summary>Brings catalogues up to date, one after another.</summary>
    public async Task<IReadOnlyList<RefreshResult>> RefreshAsync(IEnumerable<RegisteredCatalogue> catalogues, CancellationToken cancel)
    {
        var refresh = new CatalogueRefresh(Cache, _fetcher, Clock);
        var results = new List<RefreshResult>();
        foreach (var catalogue in catalogues) results.Add(await refresh.RunAsync(catalogue, cancel));
        return results;
    }

    /// <summary>Makes the runner of this root.</summary>
    public Runner Runner() => new(Layout, Records, new DownloadCache(Layout, _fetcher), Clock);

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

        return await RefreshAsync(added, cancel);
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _fetcher.Dispose();
        Cache.Dispose();
        Records.Dispose();
        _lock?.Dispose();
    }

    private static Workstation Open(WorkstationSettings settings, TimeProvider clock, RunLock? held, bool create)
    {
        var records = RecordStore.Open(settings.Layout, clock, create);
        try
        {
            var cache = CatalogueCache.Open(settings.Layout, create);
            var station = new Workstation(settings, clock, held, records, cache);
            if (held is not null) station.Reverted = station.Runner().RevertUnsettled();
            return station;
        }
        catch
        {
            records.Dispose();
            throw;
        }
    }
}
