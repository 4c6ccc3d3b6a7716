using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
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
    /// <param name="check">Says what else is wrong with the app once it is placed; null for nothing.</param>
    /// <param name="kept">What to keep of its card; null for nothing.</param>
    /// <param name="cancel">Stops before the change is settled: everything is put back.</param>
    /// <returns>The paths of what a user has changed, which were left as they are.</returns>
    public IReadOnlyList<string> SwitchTo(
        InstalledApp? before, InstalledApp? after, Func<string?>? check = null, KeptCard? kept = null,
        CancellationToken cancel = default)
    {
        var id = (after ?? before)!.Id;
        var edited = before is null ? [] : placer.Edited(before);
        records.Intend(id, after, kept);
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

            if (after is not null && placer.Lacking(after).ToList() is { Count: > 0 } lacking)
            {
                throw new Problem(
                    ProblemCode.SystemLacks, $"{id} {after.Version} cannot start on this machine", string.Join("; ", lacking),
                    "install what it lacks, then run the command again").ToException();
            }

            if (check?.Invoke() is { } fault) throw new Problem(
                ProblemCode.NotVerified, $"{id} {after!.Version} does not work", fault,
                "tell the catalogue's maintainer; its output is in the log").ToException();
            cancel.ThrowIfCancellationRequested();
            records.CommitState(id, after);
            return edited;
        }
        catch (Exception fault)
        {
            Revert(id, before, after, fault);
            throw;
        }
    }

    /// <summary>
    /// Makes an app whole whose records are older than the disk. What the link and the notes say is a claim; what is placed
    /// decides.
    /// </summary>
    /// <param name="record">The app as recorded; null if it is not on record.</param>
    /// <param name="disk">The app as the link and its note say; null if nothing of it is left.</param>
    public void MakeWhole(InstalledApp? record, InstalledApp? disk)
    {
        // If some files are of the recorded version and some are newer, the switch was cut off in the middle. It is taken back.
        var isInTheMiddle = record is not null && disk is not null && shelf.IsWhole(record)
            && record.Placed.Any(item => disk.Placed.FirstOrDefault(item.IsAt) is var newer
                && (newer is null || newer.Sha256 != item.Sha256 || newer.Source != item.Source)
                    && placer.IsAsPlaced(record, item));
        var (from, to) = isInTheMiddle ? (disk, record) : (record, disk);
        var id = (to ?? from)!.Id;
        if (to is null)
        {
            records.CommitState(id, null, isPlaced: false);
            return;
        }

        records.Intend(id, to);
        Apply(from, to);
        records.CommitState(id, to, isPlaced: isInTheMiddle);
    }

    /// <summary>Puts the entries right that name a folder which was moved.</summary>
    /// <returns>The ids of their apps.</returns>
    public IReadOnlyList<string> PutRightMoved()
    {
        var open = records.Intentions().Select(intention => intention.Id).ToHashSet();
        List<string> moved = [];
        foreach (var app in records.Apps().Where(app => !open.Contains(app.Id)))
        {
            if (placer.PutRight(app) is not { } after || !shelf.IsInFront(app.Id)) continue;
            SwitchTo(app, after);
            shelf.Note(after);
            moved.Add(app.Id.Text);
        }

        return moved;
    }

    /// <summary>Reverts what earlier runs left in the middle. One app that cannot be reverted does not keep the others.</summary>
    /// <returns>The ids of the apps that were reverted, and what keeps the others from it.</returns>
    public (IReadOnlyList<string> Reverted, IReadOnlyList<Problem> Stuck) RevertUnsettled()
    {
        var reverted = new List<string>();
        var stuck = new List<Problem>();
        foreach (var (id, after) in records.Intentions())
        {
            if (Stuck(id, after) is { } problem) stuck.Add(problem);
            else reverted.Add(id.Text);
        }

        var kept = records.Ids().Concat(records.Intentions().Select(open => open.Id.Text)).ToHashSet(StringComparer.Ordinal);
        shelf.DropLeftovers(id => kept.Contains(id.Text), records.WasCutOff() || reverted.Count + stuck.Count > 0);
        return (reverted, stuck);
    }

    /// <summary>Tries again to revert an app that is in the middle; what keeps it from that, or null.</summary>
    /// <param name="id">The app.</param>
    public Problem? StillStuck(AppId id)
    {
        foreach (var (open, after) in records.Intentions())
        {
            if (open == id) return Stuck(id, after);
        }

        return null;
    }

    /// <summary>
    /// Takes away what an app in the middle has placed on its way to a state that it did not reach, so that it can be
    /// uninstalled.
    /// </summary>
    /// <param name="id">The app.</param>
    public void TakeAwayUnreached(AppId id)
    {
        foreach (var (open, after) in records.Intentions())
        {
            if (open == id && after is not null) placer.TakeAway(after, null);
        }
    }

    /// <summary>Whether an app is in the middle of a change.</summary>
    public bool IsOpen(AppId id) => records.Intentions().Any(open => open.Id == id);

    private Problem? Stuck(AppId id, InstalledApp? after)
    {
        try
        {
            var before = records.Find(id);
            foreach (var app in new[] { before, after }.OfType<InstalledApp>()) placer.DropLeftovers(app);
            Apply(after, before);
            records.CommitState(id, before);
            return null;
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            return InTheMiddle(id, fault, "");
        }
    }

    /// <exception cref="ProblemException">It cannot be put back; the intention stays open.</exception>
    private void Revert(AppId id, InstalledApp? before, InstalledApp? after, Exception fault)
    {
        try
        {
            Apply(after, before);
            records.CommitState(id, before);
        }
        catch (Exception second) when (IoProblems.IsExpected(second))
        {
            throw InTheMiddle(id, second, $"{IoProblems.ToProblem(fault, $"{id} cannot be changed").What}; ").ToException(fault);
        }
    }

    private static Problem InTheMiddle(AppId id, Exception fault, string first)
    {
        var problem = IoProblems.ToProblem(fault, $"{id} cannot be put back");
        var why = problem.Why.Length == 0 ? problem.What : problem.Why;
        return new Problem(
            ProblemCode.StateNeedsAttention, $"{id} is in the middle of a change and could not be put back as it was",
            $"{first}{why}", $"remove the cause and run the command again, or: {NextCommand.Create("uninstall", id.Text)}")
        { LeavesOpen = true };
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
