using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Sessions;

/// <summary>The installed apps of a root: as the records have them, as the disk has them where the records are older.</summary>
/// <param name="session">The clock and the settings, and who hears remarks.</param>
/// <param name="layout">Where everything lies.</param>
/// <param name="records">The records.</param>
/// <param name="placing">The shelf and what is placed.</param>
/// <param name="downloads">The files that are still here.</param>
/// <param name="confinement">Confines the apps that tell their own version.</param>
internal sealed class InstalledApps(
    Session session, MachineLayout layout, RecordStore records, PlacingTools placing, DownloadCache downloads,
    Confinement confinement)
{
    private bool _hasToldDifferences;

    /// <summary>Compares records with the disk.</summary>
    public AppInspector Inspector => field ??= new AppInspector(layout, placing);

    /// <summary>What is on the machine now.</summary>
    public MachineState Read() => new(HostPlatform.Current, Find())
    {
        Pins = new PinList(records.Pins(), session.Today), Damage = Inspector.DamageOf, Protected = session.Settings.Protected,
        Kept = Kept, InstalledCard = app => records.KeptCardOf(app.Id, app.Sha256)?.Card,
    };

    private KeptCard? Kept(InstalledApp app) =>
        app.Files.All(file => downloads.Has(file.Sha256)) ? records.KeptCardOf(app.Id, app.Sha256) : null;

    /// <summary>What is on the machine now, where many apps will be held against the disk: that is done on every
    /// processor.</summary>
    /// <param name="names">The ids of these apps, or what a bundle calls them.</param>
    public MachineState ReadAndInspect(IEnumerable<string> names)
    {
        const int many = 50;
        var (state, wanted) = (Read(), names.ToHashSet(StringComparer.Ordinal));
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
    public MachineState ReadWithRealVersions(CancellationToken cancel)
    {
        var state = Read();
        return state.Apps.All(app => app.VersionSource is null) ? state : state.With(
            new VersionReading(layout, placing.Shelf, confinement).Read(state.Apps, text => session.Note(text), cancel));
    }

    /// <summary>The installed apps, as the disk has them where the records are older. That is said.</summary>
    private IReadOnlyList<InstalledApp> Find()
    {
        var apps = records.Apps();
        if (!_hasToldDifferences)
            foreach (var problem in records.Unreadable())
                session.Note($"{problem.What}, and the app is left out: {problem.Why}; {problem.Remedy}");
        var open = records.Intentions().Select(intention => intention.Id.Text).ToHashSet(StringComparer.Ordinal);
        var differences = new ShelfVersusRecords(layout, placing.Shelf).Differences(apps, open);
        if (differences.Count == 0)
        {
            _hasToldDifferences = true;
            return apps;
        }

        if (!_hasToldDifferences)
            session.Note($"the records are older than this machine: {RecordDifference.Words(differences)}");
        _hasToldDifferences = true;
        var changed = differences.Select(one => (one.Record ?? one.Disk)!.Id).ToHashSet();
        return [.. apps.Where(app => !changed.Contains(app.Id))
            .Concat(differences.Select(one => one.Disk).OfType<InstalledApp>())
            .OrderBy(app => app.Id.Text, StringComparer.Ordinal)];
    }
}
