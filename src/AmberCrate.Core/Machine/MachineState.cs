using AmberCrate.Core.Cards;
using AmberCrate.Core.Searching;

namespace AmberCrate.Core.Machine;

/// <summary>What is on a machine, as far as planning needs to know.</summary>
public sealed class MachineState(Platform platform, IEnumerable<InstalledApp> apps)
{
    private readonly SortedDictionary<string, InstalledApp> _apps =
        new(apps.ToDictionary(app => app.Id.Text), StringComparer.Ordinal);

    private ILookup<string, InstalledApp>? _related;

    /// <summary>The machine's platform.</summary>
    public Platform Platform { get; } = platform;

    /// <summary>The installed apps, ordered by id.</summary>
    public IReadOnlyCollection<InstalledApp> Apps => _apps.Values;

    /// <summary>The installed app with this id; null where it is not installed.</summary>
    public InstalledApp? Find(AppId id) => _apps.GetValueOrDefault(id.Text);

    /// <summary>The installed apps that need another or cannot be there beside it, ordered by id.</summary>
    public IEnumerable<InstalledApp> RelatedTo(AppId other)
    {
        _related ??= _apps.Values
            .SelectMany(app => app.Needs.Concat(app.Conflicts).Select(related => related.Id.Text).Distinct().Select(id => (id, app)))
            .ToLookup(pair => pair.id, pair => pair.app, StringComparer.Ordinal);
        return _related[other.Text];
    }

    /// <summary>Installed apps whose id is this name, or else whose id or name reads the same when folded.</summary>
    public IReadOnlyList<InstalledApp> Named(string name)
    {
        if (_apps.TryGetValue(name, out var exact)) return [exact];
        var squashed = SearchText.Squash(name);
        return [.. _apps.Values.Where(app => SearchText.Squash(app.Id.Text) == squashed || SearchText.Squash(app.Name) == squashed)];
    }
}
