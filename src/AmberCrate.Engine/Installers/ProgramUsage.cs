using System.Globalization;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Installers;

/// <summary>Watches what a foreign program takes while it runs: bytes and files in its folders, processes, memory,
/// disk.</summary>
/// <param name="limits">What it is allowed.</param>
/// <param name="process">The process that was started.</param>
internal sealed class ProgramUsage(ProgramLimits limits, int process)
{
    private const long LeastFree = 64 << 20, FolderBytes = 4096;
    private const int MostProcesses = 512;

    /// <summary>How much memory it may take, in bytes: 4 GiB, or half of what the machine has.</summary>
    public static long MostMemory { get; } = Math.Min(4L << 30, GC.GetGCMemoryInfo().TotalAvailableMemoryBytes / 2);

    /// <summary>Why it must be ended now; null where it may go on.</summary>
    public string? Excess() => FolderExcess() ?? DiskExcess() ?? ProcessExcess();

    /// <summary>Why what it has written is too much; null where it is not.</summary>
    public string? FolderExcess()
    {
        var (bytes, entries) = (0L, 0);
        foreach (var folder in limits.Folders.Where(Directory.Exists))
        {
            var (more, count, isWhole) = RawTree.Measure(folder, FolderBytes, limits.Bytes - bytes, limits.Entries - entries);
            if (!isWhole) return "it has made a folder that cannot be looked into";
            (bytes, entries) = (bytes + more, entries + count);
        }

        if (bytes > limits.Bytes) return $"it has written more than {ByteSize.Words(limits.Bytes)}";
        return entries > limits.Entries ? $"it has made more than {limits.Entries} files" : null;
    }

    private string? DiskExcess() =>
        new DriveInfo(limits.Folders[0]).AvailableFreeSpace < LeastFree ? "the disk is nearly full" : null;

    private string? ProcessExcess()
    {
        var (memory, count) = (0L, 0);
        foreach (var member in Family())
        {
            count++;
            memory += ResidentBytes(member);
        }

        if (count > MostProcesses) return $"it has started more than {MostProcesses} processes";
        return memory > MostMemory ? $"it takes more than {ByteSize.Words(MostMemory)} of memory" : null;
    }

    /// <summary>The process and all that come from it: a process whose parent has ended goes to the first of its own name
    /// space.</summary>
    private List<int> Family()
    {
        var children = Parents().ToLookup(pair => pair.Parent, pair => pair.Process);
        List<int> found = [process];
        for (var at = 0; at < found.Count; at++) found.AddRange(children[found[at]]);
        return found;
    }

    private static IEnumerable<(int Process, int Parent)> Parents()
    {
        foreach (var folder in Directory.EnumerateDirectories("/proc"))
        {
            if (Number(Path.GetFileName(folder)) is { } process && ParentIn(Posix.ReadText($"{folder}/stat")) is { } parent)
                yield return (process, parent);
        }
    }

    /// <summary>A line of proc_pid_stat(5): behind the name in brackets, which may hold anything, stand state and
    /// parent.</summary>
    private static int? ParentIn(string line)
    {
        var fields = line[(line.LastIndexOf(')') + 1)..].Split(' ', 3, StringSplitOptions.RemoveEmptyEntries);
        return fields.Length > 1 ? Number(fields[1]) : null;
    }

    /// <summary>The second number of proc_pid_statm(5), in pages.</summary>
    private static long ResidentBytes(int process)
    {
        var fields = Posix.ReadText($"/proc/{process}/statm").Split(' ');
        return fields.Length > 1 && Number(fields[1]) is { } pages ? (long)pages * Environment.SystemPageSize : 0;
    }

    private static int? Number(string text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;
}
