using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>How much room a plan takes on one file system.</summary>
/// <param name="MountPoint">Where the file system is mounted.</param>
/// <param name="Needed">How many bytes the plan is expected to take while it is carried out: old versions count until they are
/// replaced.</param>
/// <param name="Free">How many bytes are free for this user.</param>
/// <param name="Certain">How many bytes it takes at least. Where a card is silent about the unpacked size, that is the size of
/// the download.</param>
public sealed record SpaceNeed(string MountPoint, long Needed, long Free, long Certain)
{
    /// <summary>Whether a part of it is assumed.</summary>
    public bool IsEstimate => Certain < Needed;

    /// <summary>Whether there is room for what is certain.</summary>
    public bool IsMet => Certain <= Free;

    /// <summary>The fault where there is not enough room; null where there is.</summary>
    public Problem? Shortage => IsMet ? null : new Problem(
        ProblemCode.StateNeedsAttention,
        $"there is not enough room on {MountPoint}",
        $"{(IsEstimate ? "at least " : "")}{ByteSize.Mebibytes(Certain)} MiB are needed, {ByteSize.Mebibytes(Free)} MiB are "
            + $"free; nothing has been changed",
        "make room, or install fewer apps at once");
}
