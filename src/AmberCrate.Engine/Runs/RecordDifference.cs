using AmberCrate.Core.Machine;

namespace AmberCrate.Engine.Runs;

/// <summary>Reports apps that differ from the records.</summary>
internal static class RecordDifference
{
    /// <summary>All of them in one sentence.</summary>
    public static string Words(IEnumerable<(InstalledApp? Record, InstalledApp? Disk)> differences) => string.Join(
        ", ", differences.Select(one => one switch
        {
            (null, { } disk) => $"{disk.Id} {disk.Version} is installed",
            ({ } record, null) => $"{record.Id} is not installed",
            ({ } record, { } disk) => $"{disk.Id} is {disk.Version}, not {record.Version}",
            _ => "",
        }));
}
