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
            DeepFolder.Delete(folder);
        }

        return new AppSwitch(placing.Shelf, placing.Placer, records).RevertUnsettled();
    }

    /// <summary>Apps that are in place and not on record, as where the record is older than the disk.</summary>
    public IReadOnlyList<string> NotOnRecord() => [.. placing.Shelf.InFront().Except(records.Ids())];
}
