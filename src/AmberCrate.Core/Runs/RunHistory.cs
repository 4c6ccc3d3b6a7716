using AmberCrate.Core.Machine;

namespace AmberCrate.Core.Runs;

/// <summary>Tells from the records of runs what a machine had at an earlier time.</summary>
public static class RunHistory
{
    /// <summary>The apps that a machine had before some runs, ordered by id.</summary>
    /// <param name="now">The apps that it has now.</param>
    /// <param name="since">The items of the runs since then, the latest run first.</param>
    public static IReadOnlyList<InstalledApp> Before(
        IEnumerable<InstalledApp> now, IEnumerable<IEnumerable<RecordedItem>> since)
    {
        var apps = now.ToDictionary(app => app.Id.Text, StringComparer.Ordinal);
        foreach (var item in since.SelectMany(items => items).Where(item => item.HasChanged))
        {
            if (item.Before is { } before) apps[before.Id.Text] = before;
            else apps.Remove(item.Reference.Name);
        }

        return [.. apps.Values.OrderBy(app => app.Id.Text, StringComparer.Ordinal)];
    }
}
