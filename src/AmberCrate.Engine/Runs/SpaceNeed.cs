using System.Globalization;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Runs;

/// <summary>How much room a plan takes on one file system.</summary>
/// <param name="MountPoint">Where the file system is mounted.</param>
/// <param name="Needed">How many bytes the plan takes at most while it is carried out: old versions count until they are replaced.</param>
/// <param name="Free">How many bytes are free for this user.</param>
/// <param name="Certain">How many of those bytes are certain: for cards that are silent about their size three times the download is assumed.</param>
public sealed record SpaceNeed(string MountPoint, long Needed, long Free, long Certain)
{
    private const int UsualGrowth = 3;

    /// <summary>Whether a part of it is assumed.</summary>
    public bool IsEstimate => Certain < Needed;

    /// <summary>Whether there is room for what is certain.</summary>
    public bool IsMet => Certain <= Free;

    /// <summary>What a plan needs, for each file system that it writes to.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="layout">Where everything lies.</param>
    /// <param name="there">How much of each file has been fetched already.</param>
    /// <param name="fetchesOnly">Whether only the artifacts will be fetched.</param>
    public static IReadOnlyList<SpaceNeed> Of(Plan plan, MachineLayout layout, IReadOnlyDictionary<Sha256Digest, long> there, bool fetchesOnly)
    {
        var fetched = plan.Items.Where(item => item.Fetches).ToList();
        if (fetched.Count == 0) return [];
        var toFetch = fetched.DistinctBy(item => item.FileDigest).Sum(item => Math.Max(0, item.Artifact!.DownloadSize - there[item.FileDigest!]));
        var toKeep = fetched.Sum(item => item.Artifact!.InstalledSize ?? 0);
        var assumed = fetched.Where(item => item.Artifact!.InstalledSize is null).Sum(item => item.Artifact!.DownloadSize * UsualGrowth);
        var mounts = Mounts();
        return [.. new[] { (Folder: Existing(layout.DownloadsFolder), Certain: toFetch, Assumed: 0L), (Folder: Existing(layout.ShelfFolder), Certain: toKeep, Assumed: assumed) }
            .Take(fetchesOnly ? 1 : 2)
            .GroupBy(part => Posix.DeviceOf(part.Folder))
            .Select(device => new SpaceNeed(
                MountOf(mounts, device.Key, device.First().Folder), device.Sum(part => part.Certain + part.Assumed), new DriveInfo(device.First().Folder).AvailableFreeSpace,
                device.Sum(part => part.Certain)))];
    }

    /// <summary>Refuses a plan for which there is no room.</summary>
    /// <exception cref="ProblemException">A file system is too small.</exception>
    public static void Require(IReadOnlyList<SpaceNeed> needs)
    {
        if (needs.FirstOrDefault(need => !need.IsMet) is not { } full) return;
        throw new Problem(
            ProblemCode.StateNeedsAttention,
            $"there is not enough room on {full.MountPoint}",
            string.Create(CultureInfo.InvariantCulture, $"{Mebibytes(full.Certain)} MiB are needed, {Mebibytes(full.Free)} MiB are free; nothing has been changed"),
            "make room, or ask for fewer apps at once").ToException();
    }

    private static string Mebibytes(long bytes) => (bytes / (double)(1 << 20)).ToString("0.0", CultureInfo.InvariantCulture);

    private static string Existing(string folder)
    {
        while (!Directory.Exists(folder)) folder = Path.GetDirectoryName(folder)!;
        return folder;
    }

    /// <summary>The mount points of this process by device (proc_pid_mountinfo(5)).</summary>
    private static ILookup<string, string> Mounts() => Posix.Lines("/proc/self/mountinfo")
        .Select(line => line.Split(' '))
        .Where(fields => fields.Length > 4)
        .ToLookup(fields => fields[2], fields => fields[4].Replace("\\040", " ", StringComparison.Ordinal), StringComparer.Ordinal);

    private static string MountOf(ILookup<string, string> mounts, string device, string folder) =>
        mounts[device].Where(mount => mount == "/" || folder == mount || folder.StartsWith(mount + "/", StringComparison.Ordinal)).MaxBy(mount => mount.Length) ?? folder;
}
