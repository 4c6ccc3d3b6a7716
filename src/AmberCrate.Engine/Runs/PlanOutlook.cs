using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Rights;

namespace AmberCrate.Engine.Runs;

/// <summary>What a plan will take of this machine, beside the plan itself.</summary>
/// <param name="Space">How much room it takes on each file system.</param>
/// <param name="Fetched">How many of the bytes to download are there already, from an earlier run; they are verified when they are used.</param>
public sealed record PlanOutlook(IReadOnlyList<SpaceNeed> Space, long Fetched)
{
    /// <summary>The system's programs that will be run at the end, so that the desktop sees what has changed.</summary>
    public IReadOnlyList<string> Afterwards { get; init; } = [];

    /// <summary>Whether the installers that the plan runs are confined; false where it runs none.</summary>
    public bool ConfinesInstallers { get; init; }

    /// <summary>Which rights it takes.</summary>
    public RightsNeed Rights { get; init; } = RightsNeed.Own;

    /// <summary>Apps of the other scope that the plan puts on in this one.</summary>
    public IReadOnlyList<InstalledApp> Twice { get; init; } = [];

    /// <summary>Looks ahead.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="layout">Where everything lies.</param>
    /// <param name="downloads">What has been fetched already.</param>
    /// <param name="fetchesOnly">Whether only the artifacts will be fetched.</param>
    public static PlanOutlook Of(Plan plan, MachineLayout layout, DownloadCache downloads, bool fetchesOnly = false)
    {
        var there = new Dictionary<Sha256Digest, long>();
        foreach (var item in plan.Items.Where(item => item.Fetches)) there.TryAdd(item.FileDigest!, downloads.BytesThere(item.FileDigest!));
        return new PlanOutlook(
            SpaceNeed.Of(plan, layout, there, fetchesOnly),
            plan.Items.Where(item => item.Fetches).Sum(item => Math.Min(item.Artifact!.DownloadSize, there[item.FileDigest!])));
    }
}
