using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;

namespace AmberCrate.Core.Runs;

/// <summary>
/// The items of an earlier run that are still to be done. They are computed only here, for retry, check and the list of runs:
/// from the record of the run and the machine as it is now.
/// </summary>
public static class RunLeft
{
    /// <summary>
    /// The items that did not end as planned, of apps that stand as they did before the run. If an app was changed since, by
    /// whatever command, the user has decided again, and its item is not left.
    /// </summary>
    /// <param name="items">The items of the run.</param>
    /// <param name="machine">The machine as it is now.</param>
    /// <param name="later">The items of later runs that have to do with an app.</param>
    public static IReadOnlyList<RecordedItem> Find(
        IEnumerable<RecordedItem> items, MachineState machine, Func<string, IEnumerable<RecordedItem>> later) =>
    [
        .. items.Where(item => item.IsLeft && StandsAsBefore(item, machine)
            && !later(item.Reference.Name).Any(other => other.HasChanged)),
    ];

    private static bool StandsAsBefore(RecordedItem item, MachineState machine)
    {
        var now = item.Reference.Id is { } id ? machine.Find(id) : null;

        // The oldest records do not have the state before.
        if (item.Before is null && now is not null && item.Action != PlanAction.Install) return true;
        return Equals(RecordedItem.Stands(item.Before), RecordedItem.Stands(now));
    }
}
