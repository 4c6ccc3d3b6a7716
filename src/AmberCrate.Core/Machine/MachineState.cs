using AmberCrate.Core.Cards;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Machine;

/// <summary>What is on a machine, as far as planning needs to know.</summary>
public sealed class MachineState(Platform platform, IEnumerable<InstalledApp> apps)
{
    private readonly InstalledApp[] _apps = ById(apps);

    private ILookup<string, InstalledApp>? _related;

    /// <summary>The machine's platform.</summary>
    public Platform Platform { get; } = platform;

    /// <summary>The pins, and which of them hold today.</summary>
    public PinList Pins { get; init; } = PinList.None;

    /// <summary>The installed apps, ordered by id.</summary>
    public IReadOnlyCollection<InstalledApp> Apps => _apps;

    /// <summary>The versions that apps tell themselves, where these are not the ones on record.</summary>
    public IReadOnlyDictionary<AppId, AppVersion> RealVersions { get; init; } = new Dictionary<AppId, AppVersion>();

    /// <summary>An app with the version that it tells itself. That differs from the record if it updates itself.</summary>
    public InstalledApp WithRealVersion(InstalledApp app) =>
        RealVersions.TryGetValue(app.Id, out var real) ? app with { Version = real } : app;

    /// <summary>The apps that the machine's settings protect, beside those that their cards protect.</summary>
    public IReadOnlySet<AppId> Protected { get; init; } = new HashSet<AppId>();

    /// <summary>Whether an app may not be uninstalled.</summary>
    public bool IsProtected(InstalledApp app) => app.IsProtected || Protected.Contains(app.Id);

    /// <summary>Says what of an app is damaged on the disk; null for nothing.</summary>
    public Func<InstalledApp, AppDamage?> Damage { get; init; } = _ => null;

    /// <summary>
    /// What was kept of the card of a version, if its file is still on this machine too: with both, the version
    /// can be put back without its catalogue. Null for nothing.
    /// </summary>
    public Func<InstalledApp, KeptCard?> Kept { get; init; } = _ => null;

    /// <summary>The card that an app was installed with, as far as it was kept; null if it was not kept.</summary>
    public Func<InstalledApp, AppCard?> InstalledCard { get; init; } = _ => null;

    /// <summary>The platforms that a user chooses for apps instead of the machine's own.</summary>
    public IReadOnlyDictionary<AppId, Platform> ChosenPlatforms { get; init; } = new Dictionary<AppId, Platform>();

    /// <summary>The platform of the installed app.</summary>
    public Platform PlatformOf(AppId id) => ChosenPlatforms.GetValueOrDefault(id) ?? Find(id)?.Platform ?? Platform;

    /// <summary>The same machine with other pins.</summary>
    public MachineState With(PinList pins) => Copy(_apps, pins, RealVersions, ChosenPlatforms);

    /// <summary>The same machine with the versions that apps tell themselves.</summary>
    public MachineState With(IReadOnlyDictionary<AppId, AppVersion> real) => Copy(_apps, Pins, real, ChosenPlatforms);

    /// <summary>The same machine with other platforms for some apps.</summary>
    public MachineState With(IReadOnlyDictionary<AppId, Platform> platforms) => Copy(_apps, Pins, RealVersions, platforms);

    /// <summary>The same machine with other apps.</summary>
    public MachineState With(IEnumerable<InstalledApp> apps) => Copy(apps, Pins, RealVersions, ChosenPlatforms);

    private MachineState Copy(
        IEnumerable<InstalledApp> apps, PinList pins, IReadOnlyDictionary<AppId, AppVersion> real,
        IReadOnlyDictionary<AppId, Platform> platforms) => new(Platform, apps)
        {
            Pins = pins, Damage = Damage, Kept = Kept, InstalledCard = InstalledCard,
            RealVersions = real, Protected = Protected, ChosenPlatforms = platforms,
        };

    /// <summary>The installed app with this id; null where it is not installed.</summary>
    public InstalledApp? Find(AppId id) => Find(id.Text);

    /// <summary>The installed apps that need another or cannot be there beside it, ordered by id.</summary>
    public IEnumerable<InstalledApp> RelatedTo(AppId other)
    {
        _related ??= _apps
            .SelectMany(
                app => app.Needs.Concat(app.Conflicts).Select(related => related.Id.Text).Distinct().Select(id => (id, app)))
            .ToLookup(pair => pair.id, pair => pair.app, StringComparer.Ordinal);
        return _related[other.Text];
    }

    /// <summary>Installed apps whose id is this name, or else whose id or name reads the same when folded.</summary>
    public IReadOnlyList<InstalledApp> Named(string name)
    {
        if (Find(name) is { } exact) return [exact];
        var squashed = SearchText.Squash(name);
        return [.. _apps.Where(app => SearchText.Squash(app.Id.Text) == squashed || SearchText.Squash(app.Name) == squashed)];
    }

    private static InstalledApp[] ById(IEnumerable<InstalledApp> apps)
    {
        InstalledApp[] sorted = [.. apps];
        if (sorted.Length > 1) Array.Sort(sorted, (left, right) => string.CompareOrdinal(left.Id.Text, right.Id.Text));
        return sorted;
    }

    private InstalledApp? Find(string id)
    {
        for (var (first, last) = (0, _apps.Length - 1); first <= last;)
        {
            var middle = (first + last) / 2;
            var order = string.CompareOrdinal(_apps[middle].Id.Text, id);
            if (order == 0) return _apps[middle];
            if (order < 0) first = middle + 1;
            else last = middle - 1;
        }

        return null;
    }
}
