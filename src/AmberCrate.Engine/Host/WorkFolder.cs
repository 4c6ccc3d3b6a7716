using System.Globalization;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Host;

/// <summary>
/// A temporary folder for one task, deleted with it. If the process is killed, the next one that needs such a folder deletes what
/// was left: the name says which process made it.
/// </summary>
internal sealed class WorkFolder : IDisposable
{
    private const string Prefix = "acrate-work-";

    private WorkFolder(string path) => Path = path;

    /// <summary>The folder. Nobody but this user can enter it.</summary>
    public string Path { get; }

    /// <summary>Makes one.</summary>
    /// <param name="task">What it is for, for whoever finds it.</param>
    public static WorkFolder Make(string task)
    {
        Sweep(System.IO.Path.GetTempPath());
        return new WorkFolder(Directory.CreateTempSubdirectory($"{Prefix}{Environment.ProcessId}-{task}-").FullName);
    }

    /// <summary>Deletes the folders of this user whose processes are gone.</summary>
    internal static void Sweep(string temporary)
    {
        foreach (var left in Directory.EnumerateDirectories(temporary, Prefix + "*"))
        {
            var process = System.IO.Path.GetFileName(left)[Prefix.Length..].Split('-')[0];
            if (IsGone(process) && Posix.OwnerOfLink(left) == Posix.EffectiveUser()) DeepFolder.TryDelete(left);
        }
    }

    /// <summary>Whether there is no process of a number any more.</summary>
    internal static bool IsGone(string process) =>
        int.TryParse(process, NumberStyles.None, CultureInfo.InvariantCulture, out _) && !Directory.Exists($"/proc/{process}");

    /// <inheritdoc/>
    public void Dispose() => DeepFolder.Delete(Path);
}
