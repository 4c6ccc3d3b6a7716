namespace AmberCrate.Core.Catalogues;

/// <summary>On how many of a maintainer's own machines each app is: counted from exports, no machine is named.</summary>
/// <param name="Machines">How many machines were counted.</param>
/// <param name="Apps">For each app by id, on how many of them it is; apps that are on none are left out.</param>
public sealed record Popularity(int Machines, IReadOnlyDictionary<string, int> Apps)
{
    /// <summary>The largest number of apps in it, those that are on the most machines.</summary>
    public const int Most = 10_000;

    /// <summary>Counts machines, each by the ids of what it has.</summary>
    /// <param name="machines">The machines.</param>
    /// <param name="offered">The ids of the catalogue's apps; others are not told of.</param>
    public static Popularity Count(IReadOnlyCollection<IReadOnlyCollection<string>> machines,
        IReadOnlySet<string> offered) => new(
        machines.Count,
        machines.SelectMany(ids => ids.Distinct(StringComparer.Ordinal)).Where(offered.Contains)
            .GroupBy(id => id, StringComparer.Ordinal)
            .Select(group => (Id: group.Key, Count: group.Count()))
            .OrderByDescending(app => app.Count).ThenBy(app => app.Id, StringComparer.Ordinal).Take(Most)
            .OrderBy(app => app.Id, StringComparer.Ordinal)
            .ToDictionary(app => app.Id, app => app.Count, StringComparer.Ordinal));
}
