using AmberCrate.Core.Values;

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
    /// <param name="there">How many bytes of a file are there already.</param>
    public static PlanSize Measure(Plan plan, Func<Sha256Digest, long> there)
    {
        var (fetched, kept, assumed) = (0L, 0L, 0L);
        foreach (var (digest, size) in plan.FilesToFetch) fetched += Math.Max(0, size - there(digest));
        foreach (var delivery in plan.Items.Where(item => item.Fetches).Select(item => item.Delivery!))
        {
            kept += delivery.InstalledSize ?? delivery.DownloadSize;
            if (delivery.InstalledSize is null) assumed += delivery.DownloadSize * (UsualGrowth - 1);
        }

        return new PlanSize(fetched, kept, assumed);
    }
}
