using System.Buffers.Binary;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Drafting;

/// <summary>
/// Takes the desktop entries, metainfo files and icons out of an AppImage with the system's unsquashfs. The AppImage itself is
/// not started. Source: the AppImage specification, type 2: an ELF file, and a squashfs behind its end.
/// </summary>
internal static class AppImageFiles
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(60);

    // No file that is taken out may be larger: prlimit(1) has the kernel see to it.
    private const string MostBytes = "8388608";

    // It has one thread and small queues, and may take no more memory: a hostile image says how much it wants.
    private const string MostMemory = "268435456";

    private static readonly string[] Wanted =
        ["*.desktop", "usr/share/metainfo/*.xml", "usr/share/appdata/*.xml", "usr/share/applications/*.desktop"];

    /// <summary>The size of the launcher that is placed beside an AppImage.</summary>
    public static long LauncherSize(string name) => Archives.AppImage.Launcher(name).Length;

    /// <summary>Takes the files out.</summary>
    /// <param name="path">The AppImage.</param>
    /// <param name="folder">A folder that is not there yet.</param>
    /// <returns>Why they could not be taken out, or not all of them; null where they were. The folder is there where anything
    /// was.</returns>
    public static string? Read(string path, string folder)
    {
        if (EndOfProgram(path) is not { } offset) return "it is no AppImage of type 2";
        if (ProgramSearch.Trusted("unsquashfs") is not { } program) return "unsquashfs is not on this machine";
        List<string> arguments =
            ["-quiet", "-no-progress", "-no-xattrs", "-data-queue", "8", "-frag-queue", "8", "-processors", "1", "-offset",
                $"{offset}", "-dest", folder, path, .. Wanted];
        var answer = ProgramSearch.Trusted("prlimit") is { } limit
            ? SystemProgram.Ask(limit, [$"--fsize={MostBytes}", $"--as={MostMemory}", "--", program, .. arguments], Patience)
            : SystemProgram.Ask(program, arguments, Patience);
        if (answer.Code == 0) return null;
        var said = answer.Errors.Trim().Split('\n')[0];
        return said.Length > 0 ? $"unsquashfs: {said}" : $"unsquashfs ended with {answer.Code}";
    }

    /// <summary>Where the ELF file ends: behind its table of sections.</summary>
    private static long? EndOfProgram(string path)
    {
        var head = new byte[64];
        using var file = File.OpenRead(path);
        if (file.ReadAtLeast(head, head.Length, throwOnEndOfStream: false) < head.Length || head[4] != 2 || head[5] != 1
            || head[10] != 2) return null;
        var table = BinaryPrimitives.ReadInt64LittleEndian(head.AsSpan(40));
        var end = table + ((long)BinaryPrimitives.ReadUInt16LittleEndian(head.AsSpan(58))
            * BinaryPrimitives.ReadUInt16LittleEndian(head.AsSpan(60)));
        return table > 0 && end < file.Length ? end : null;
    }
}
