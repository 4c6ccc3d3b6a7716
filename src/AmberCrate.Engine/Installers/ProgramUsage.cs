using System.Globalization;
using System.IO.Enumeration;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Installers;

/// <summary>Watches what a foreign program takes while it runs: bytes and files in its folders, processes, memory,
/// disk.</summary>
/// <param name="limits">What it is allowed.</param>
/// <param name="process">The process that was started.</param>
internal sealed class ProgramUsage(ProgramLimits limits, int process)
{
    private const long LeastFree = 64 << 20, FolderBytes = 4096;
    private const int MostProcesses = 512, MostVainLooks = 25;

    private int _vain;

    /// <summary>How much memory it may take, in bytes: 4 GiB, or half of what the machine has.</summary>
    public static long MostMemory { get; } = Math.Min(4L << 30, GC.GetGCMemoryInfo().TotalAvailableMemoryBytes / 2);

    /// <summary>Why it must be ended now; null where it may go on.</summary>
    public string? Excess() => FolderExcess() ?? DiskExcess() ?? ProcessExcess();

    /// <summary>Why what it has written is too much; null where it is not.</summary>
    public string? FolderExcess()
    {
        try
        {
            var (bytes, entries) = Measure();
            _vain = 0;
            if (bytes > limits.Bytes) return $"it has written more than {ByteSize.Words(limits.Bytes)}";
            if (entries > limits.Entries) return $"it has made more than {limits.Entries} files";
            return null;
        }
        catch (Exception closed) when (closed is UnauthorizedAccessException or PathTooLongException or ArgumentException)
        {
            return "it has made a folder that cannot be looked into";
        }
        catch (IOException)
        {
            // It has changed its folders at that very moment. Doing this all the time is no way around the limits.
            return ++_vain > MostVainLooks ? "its folders change too fast to be watched" : null;
        }
    }

    private string? DiskExcess() =>
        new DriveInfo(limits.Folders[0]).AvailableFreeSpace < LeastFree ? "the disk is nearly full" : null;

    private (long Bytes, int Entries) Measure()
    {
        var (bytes, entries) = (0L, 0);
        foreach (var folder in limits.Folders.Where(Directory.Exists))
        {
            foreach (var size in SizesIn(folder))
            {
                bytes += size;
                if (++entries > limits.Entries || bytes > limits.Bytes) return (bytes, entries);
            }
        }

        return (bytes, entries);
    }

    private static FileSystemEnumerable<long> SizesIn(string folder)
    {
        var everything = new EnumerationOptions
        {
            RecurseSubdirectories = true, AttributesToSkip = FileAttributes.None, IgnoreInaccessible = false,
        };
        return new FileSystemEnumerable<long>(folder, SizeOf, everything)
        {
            ShouldRecursePredicate = (ref FileSystemEntry entry) => IsOwnFolder(ref entry),
        };
    }

    private static long SizeOf(ref FileSystemEntry entry) =>
        IsOwnFolder(ref entry) || IsLink(ref entry) ? FolderBytes : entry.Length;

    private static bool IsOwnFolder(ref FileSystemEntry entry) => entry.IsDirectory && !IsLink(ref entry);

    private static bool IsLink(ref FileSystemEntry entry) => (entry.Attributes & FileAttributes.ReparsePoint) != 0;

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
            if (Number(Path.GetFileName(folder)) is { } process && ParentIn(Host.Posix.ReadText($"{folder}/stat")) is { } parent)
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
        var fields = Host.Posix.ReadText($"/proc/{process}/statm").Split(' ');
        return fields.Length > 1 && Number(fields[1]) is { } pages ? (long)pages * Environment.SystemPageSize : 0;
    }

    private static int? Number(string text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;
}
