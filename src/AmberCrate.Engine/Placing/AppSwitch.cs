using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.Placing;

/// <summary>
/// Takes an app from one state to another, wholly or not at all. The intention is on record before the disk is touched
/// and settled after; an intention that is found unsettled was cut off and is reverted.
/// </summary>
public sealed class AppSwitch(Shelf shelf, Placer placer, RecordStore records)
{
    /// <summary>Goes from one state to another, and back where something fails.</summary>
    /// <param name="before">The app as recorded; null where it is not installed.</param>
    /// <param name="after">The app as it shall be, its version complete on the shelf; null to uninstall it.</param>
    /// <param name="check">Tells what else is wrong with the app once it is placed; null for nothing.</param>
    /// <param name="cancel">Stops before the change is settled: everything is put back.</param>
    /// <returns>The paths of what a person has changed, which were left as they are.</returns>
    public IReadOnlyList<string> Go(
        InstalledApp? before, InstalledApp? after, Func<string?>? check = null, CancellationToken cancel = default)
    {
        var id = (after ?? before)!.Id;
        var edited = before is null ? [] : placer.Edited(before);
        records.Intend(id, after);
        try
        {
            Apply(before, after);
            if (after is not null && placer.Faults(after, edited).ToList() is { Count: > 0 } faults)
            {
                throw new Problem(
                    ProblemCode.NotVerified, $"{id} {after.Version} failed the check after it was installed",
                    string.Join("; ", faults),
                    "tell the catalogue's maintainer").ToException();
            }

            if (check?.Invoke() is { } fault) throw new Problem(
                ProblemCode.NotVerified, $"{id} {after!.Version} does not work", fault,
                "tell the catalogue's maintainer; its output is in the log").ToException();
            cancel.ThrowIfCancellationRequested();
            records.Settle(id, after);
            return edited;
        }
        catch
        {
            Apply(after, before);
            records.Settle(id, before);
            throw;
        }
    }

    /// <summary>Reverts what earlier runs left in the middle.</summary>
    /// <returns>The ids of the apps that were reverted.</returns>
    public IReadOnlyList<string> RevertUnsettled()
    {
        var reverted = new List<string>();
        foreach (var (id, after) in records.Intentions())
        {
            var before = records.Find(id);
            foreach (var app in new[] { before, after }.OfType<InstalledApp>()) placer.DropLeftovers(app);
            Apply(after, before);
            records.Settle(id, before);
            reverted.Add(id.Text);
        }

        var installed = records.Ids();
        shelf.DropLeftovers(id => installed.Contains(id.Text));
        return reverted;
    }

    /// <summary>
    /// Each step may find itself done already, so that a cut-off switch can be gone over again in either direction.
    /// </summary>
    private void Apply(InstalledApp? from, InstalledApp? to)
    {
        if (to is not null)
        {
            shelf.PutInFront(to);
            placer.Place(to, from);
        }

        if (from is not null) placer.TakeAway(from, to);
        if (to is null && from is not null) shelf.TakeFromFront(from.Id);
    }
}
