namespace AmberCrate.Core.Plans;

/// <summary>How many bytes a plan writes.</summary>
/// <param name="Fetched">How many are still to be fetched.</param>
/// <param name="Kept">How many bytes the new versions take at least.</param>
/// <param name="Assumed">How many more than that are expected, of apps whose cards are silent about it.</param>
public sealed record PlanSize(long Fetched, long Kept, long Assumed)
{
    /// <summary>How much larger an archive usually is once it is unpacked.</summary>
    private const int UsualGrowth = 3;

    /// <summary>Sums a plan up.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="there">How many bytes of an item's file are there already.</param>
    public static PlanSize Measure(Plan plan, Func<PlanItem, long> there)
    {
        var (fetched, kept, assumed) = (0L, 0L, 0L);
        foreach (var item in plan.Items.Where(item => item.Fetches).DistinctBy(item => item.FileDigest))
            fetched += Math.Max(0, item.Artifact!.DownloadSize - there(item));
        foreach (var artifact in plan.Items.Where(item => item.Fetches).Select(item => item.Artifact!))
        {
            kept += artifact.InstalledSize ?? artifact.DownloadSize;
            if (artifact.InstalledSize is null) assumed += artifact.DownloadSize * (UsualGrowth - 1);
        }

        return new PlanSize(fetched, kept, assumed);
    }
}
