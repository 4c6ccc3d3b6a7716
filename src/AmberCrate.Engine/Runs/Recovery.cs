using AmberCrate.Core.Problems;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.Runs;

/// <summary>Finds what earlier runs left in the middle, and puts it right. Only for the one who holds the lock.</summary>
/// <param name="layout">Where everything lies.</param>
/// <param name="records">The records.</param>
/// <param name="placing">The shelf and what is placed.</param>
public sealed class Recovery(MachineLayout layout, RecordStore records, PlacingTools placing)
{
    /// <summary>Reverts what an earlier run left in the middle, and ends what its installers left running.</summary>
    /// <returns>The ids of the apps that were reverted, and what keeps the others from it.</returns>
    public (IReadOnlyList<string> Reverted, IReadOnlyList<Problem> Stuck) RevertUnsettled()
    {
        foreach (var folder in AppChange.WorkFolders(layout))
        {
            Confinement.EndLeftover(folder);
            DeepFolder.TryDelete(folder);
        }

        return new AppSwitch(placing.Shelf, placing.Placer, records).RevertUnsettled();
    }

    /// <summary>Has the desktop's lists written again, where an earlier run did not come to that.</summary>
    public void RefreshLists(Action<string> say) => new DesktopCacheJournal(layout, placing.Caches).Catch(say);

    /// <summary>Brings records up to date that are older than the disk.</summary>
    /// <returns>What they did not know, in words; null for nothing.</returns>
    public string? BringUpToDate()
    {
        records.RemoveNameless();
        var open = records.Intentions().Select(intention => intention.Id.Text).ToHashSet(StringComparer.Ordinal);
        var differences = new ShelfVersusRecords(layout, placing.Shelf).Differences(records.Apps(), open);
        var whole = new AppSwitch(placing.Shelf, placing.Placer, records);
        foreach (var (record, disk) in differences)
        {
            try
            {
                whole.MakeWhole(record, disk);
            }
            catch (Exception fault) when (IoProblems.IsExpected(fault))
            {
                // It stays in the middle of a change. The next command tries again, and check names it.
            }
        }

        return differences.Count == 0 ? null : RecordDifference.Words(differences);
    }

    /// <summary>Puts right what a folder needs that was moved with all that is in it; the ids of the apps that it was done
    /// for.</summary>
    public IReadOnlyList<string> PutRightMoved() => new AppSwitch(placing.Shelf, placing.Placer, records).PutRightMoved();

    /// <summary>Apps that are in place and not on record, as where the record is older than the disk.</summary>
    public IReadOnlyList<string> NotOnRecord() => placing.Shelf.InFront(records.Ids());
}
