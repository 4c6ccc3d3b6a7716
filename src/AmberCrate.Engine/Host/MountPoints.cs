using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Host;

/// <summary>The file systems of this machine, as this process sees them (proc_pid_mountinfo(5)).</summary>
internal sealed class MountPoints
{
    private readonly ILookup<string, string> _byDevice = Posix.Lines("/proc/self/mountinfo")
        .Select(line => line.Split(' '))
        .Where(fields => fields.Length > 4)
        .ToLookup(
            fields => fields[2], fields => fields[4].Replace("\\040", " ", StringComparison.Ordinal), StringComparer.Ordinal);

    /// <summary>Where the file system of a folder is mounted; the folder itself where that is unknown.</summary>
    public string FindFor(string folder) => _byDevice[Posix.DeviceOf(folder)]
        .Where(mount => mount == "/" || folder == mount || folder.StartsWith(mount + "/", StringComparison.Ordinal))
        .MaxBy(mount => mount.Length) ?? folder;
}
