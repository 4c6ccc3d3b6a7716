using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Plans;

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

    /// <summary>
    /// The pins that a machine had before some runs, ordered by the ids of their apps. Pins that a user has set or lifted by
    /// hand since are as they are now: of these there is no record.
    /// </summary>
    /// <param name="now">The pins that it has now.</param>
    /// <param name="since">What the runs since then did to pins, the latest run first.</param>
    public static IReadOnlyList<Pin> Before(IEnumerable<Pin> now, IEnumerable<PlannedPin> since)
    {
        var pins = now.ToDictionary(pin => pin.App);
        foreach (var change in since)
        {
            if (!Equals(pins.GetValueOrDefault(change.App), change.After)) continue;
            if (change.Before is { } before) pins[change.App] = before;
            else pins.Remove(change.App);
        }

        return [.. pins.Values.OrderBy(pin => pin.App.Text, StringComparer.Ordinal)];
    }
}
