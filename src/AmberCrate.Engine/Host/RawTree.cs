using System.Runtime.InteropServices;
using System.Text;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Host;

/// <summary>
/// Folders that someone else filled. Names are bytes, as the kernel has them, and need not be UTF-8; folders may be closed, or
/// nested deeper than any path can say. The framework's own calls fail on all of these. Everything goes by descriptors, and no
/// link is followed.
/// </summary>
internal static partial class RawTree
{
    private const int Here = -100, NotFollowed = 0x100, RemovesFolder = 0x200, NoEntry = 2, MostNesting = 400, LongestPath = 4000;
    private const int FolderType = 0x4000, TypeMask = 0xf000, OwnerOnly = 0x1c0;

    // open(2): O_RDONLY | O_DIRECTORY | O_NOFOLLOW | O_CLOEXEC, and O_PATH for folders that are closed. ARM has other numbers.
    private static readonly int OpensFolder = (IsArm ? 0x4000 | 0x8000 : 0x10000 | 0x20000) | 0x80000;
    private static readonly int OpensPath = OpensFolder | 0x200000;

    private static bool IsArm => RuntimeInformation.ProcessArchitecture is Architecture.Arm64 or Architecture.Arm;

    /// <summary>Deletes a folder with everything in it. Nothing happens if it is not there.</summary>
    /// <exception cref="IOException">Something cannot be deleted; the rest may be gone.</exception>
    public static void Delete(string folder)
    {
        if (Posix.LinkAt(folder) is not null || !Directory.Exists(folder)) return;
        var name = Terminated(folder);
        var top = OpenToEmpty(Here, name);
        try
        {
            // Nested folders move to the top first. So there is always one level only, however deep it was.
            for (var moved = 0; ;)
            {
                var folders = Empty(top, top, ref moved);
                if (folders.Count == 0) break;
                foreach (var nested in folders)
                {
                    var opened = OpenToEmpty(top, nested);
                    try
                    {
                        Empty(opened, top, ref moved);
                    }
                    finally
                    {
                        _ = CloseCall(opened);
                    }

                    Remove(top, nested, RemovesFolder);
                }
            }
        }
        finally
        {
            _ = CloseCall(top);
        }

        Remove(Here, name, RemovesFolder);
    }

    /// <summary>The bytes of all files in a folder that have no other name outside of it.</summary>
    /// <param name="folder">The folder. Folders in it that cannot be entered count as empty.</param>
    public static long SizeOf(string folder)
    {
        var sum = 0L;
        var names = new Dictionary<(uint, uint, ulong), (uint Links, uint Seen, long Size)>();
        Visit(Here, Terminated(folder), 0, new TreeVisit((_, facts) =>
        {
            if (facts.Links <= 1) sum += facts.Size;
            else
            {
                var (_, seen, _) = names.GetValueOrDefault(facts.File);
                names[facts.File] = (facts.Links, seen + 1, facts.Size);
            }
        }));
        return sum + names.Values.Where(name => name.Seen == name.Links).Sum(name => name.Size);
    }

    /// <summary>
    /// The room that a folder takes: for each file its length or its blocks, whichever is more, since a file may have blocks
    /// beyond its end (fallocate(2)).
    /// </summary>
    /// <param name="folder">The folder.</param>
    /// <param name="folderSize">What a folder or a link counts.</param>
    /// <param name="mostBytes">Counting stops above this.</param>
    /// <param name="mostEntries">Counting stops above this.</param>
    /// <returns>The bytes, the number of entries, and whether all could be looked at.</returns>
    public static (long Bytes, int Entries, bool IsWhole) Measure(
        string folder, long folderSize, long mostBytes, int mostEntries)
    {
        const int BlockSize = 512;
        var (bytes, entries, isWhole) = (0L, 0, true);
        Visit(Here, Terminated(folder), 0, new TreeVisit((_, facts) =>
        {
            bytes += facts.IsFolder || !facts.IsRegular ? folderSize : Math.Max(facts.Size, facts.Blocks * BlockSize);
            entries++;
        })
        {
            SeesFolders = true, Closed = () => isWhole = false, Ends = () => bytes > mostBytes || entries > mostEntries,
        });
        return (bytes, entries, isWhole);
    }

    /// <summary>The first name in a folder that is not UTF-8, as people can read it; null for none.</summary>
    public static string? StrangeNameIn(string folder)
    {
        string? found = null;
        Visit(
            Here, Terminated(folder), 0,
            new TreeVisit((name, _) => found ??= IsText(name) ? null : Shown(name)) { SeesFolders = true });
        return found;
    }

    private static bool IsText(byte[] name) => System.Text.Unicode.Utf8.IsValid(name.AsSpan(..^1));

    private static string Shown(byte[] name) => string.Concat(name.SkipLast(1).Select(
        one => one is >= 0x20 and < 0x7f ? ((char)one).ToString() : $"\\x{one:x2}"));

    /// <summary>Removes everything of a folder but folders, and moves these to the top.</summary>
    /// <returns>The folders that are left at the top, if this is the top.</returns>
    private static List<byte[]> Empty(int folder, int top, ref int moved)
    {
        var folders = new List<byte[]>();
        foreach (var name in NamesIn(folder))
        {
            if (LookAt(folder, name) is not { } facts) continue;
            if (!facts.IsFolder) Remove(folder, name, 0);
            else if (folder == top) folders.Add(name);
            else
            {
                // A folder must be writable to get another parent.
                _ = CloseCall(OpenToEmpty(folder, name));
                for (var isMoved = false; !isMoved;)
                    isMoved = Rename(folder, name, top, Encoding.ASCII.GetBytes($".acrate-deleted-{moved++}\0"));
            }
        }

        return folders;
    }

    private static unsafe bool Rename(int folder, byte[] name, int top, byte[] next)
    {
        const int NotEmpty = 39, Exists = 17, NotReplaced = 1;
        fixed (byte* before = name, after = next)
        {
            if (RenameCall(folder, before, top, after, NotReplaced) == 0) return true;
            return Marshal.GetLastPInvokeError() is NotEmpty or Exists ? false : throw Failed("move", name);
        }
    }

    /// <summary>What is done in a walk through a folder.</summary>
    /// <param name="See">Receives the name and the facts of each file.</param>
    private sealed record TreeVisit(Action<byte[], Facts> See)
    {
        /// <summary>Whether it receives folders, links and so on too.</summary>
        public bool SeesFolders { get; init; }

        /// <summary>Called for a folder that cannot be entered.</summary>
        public Action? Closed { get; init; }

        /// <summary>Says when the walk may end early.</summary>
        public Func<bool>? Ends { get; init; }
    }

    private static void Visit(int parent, byte[] name, int length, TreeVisit visit, int depth = 0)
    {
        var opened = Open(parent, name, OpensFolder);
        length += name.Length;
        if (opened < 0 || depth > MostNesting || length > LongestPath)
        {
            // What was just removed is not closed.
            if (opened >= 0) _ = CloseCall(opened);
            if (opened >= 0 || LookAt(parent, name) is not null) visit.Closed?.Invoke();
            return;
        }

        try
        {
            foreach (var inside in NamesIn(opened))
            {
                if (visit.Ends?.Invoke() == true) return;
                if (LookAt(opened, inside) is not { } facts) continue;
                if (facts.IsRegular || visit.SeesFolders) visit.See(inside, facts);
                if (facts.IsFolder) Visit(opened, inside, length, visit, depth + 1);
            }
        }
        finally
        {
            _ = CloseCall(opened);
        }
    }

    /// <summary>Opens a folder with all rights of its owner.</summary>
    private static int OpenToEmpty(int parent, byte[] name)
    {
        var path = Open(parent, name, OpensPath);
        if (path < 0) throw Failed("open", name);
        try
        {
            // A descriptor of O_PATH takes no fchmod(2), but its name in /proc does.
            _ = ChangeModeCall($"/proc/self/fd/{path}", OwnerOnly);
        }
        finally
        {
            _ = CloseCall(path);
        }

        var opened = Open(parent, name, OpensFolder);
        return opened >= 0 ? opened : throw Failed("open", name);
    }

    private static unsafe int Open(int parent, byte[] name, int flags)
    {
        fixed (byte* bytes = name) return OpenCall(parent, bytes, flags);
    }

    private static unsafe void Remove(int parent, byte[] name, int flags)
    {
        fixed (byte* bytes = name)
        {
            if (UnlinkCall(parent, bytes, flags) != 0 && Marshal.GetLastPInvokeError() != NoEntry) throw Failed("delete", name);
        }
    }

    /// <summary>The names in a folder, each with the zero byte at its end.</summary>
    private static unsafe List<byte[]> NamesIn(int folder)
    {
        const int NameAt = 19;
        var names = new List<byte[]>();
        fixed (byte* here = "."u8)
        {
            // A stream of its own: closing it must not close the descriptor.
            var stream = FolderStreamCall(OpenCall(folder, here, OpensFolder));
            if (stream == 0) return names;
            for (nint entry; (entry = ReadCall(stream)) != 0;)
            {
                var length = 0;
                while (((byte*)entry)[NameAt + length] != 0) length++;
                var name = new ReadOnlySpan<byte>((byte*)entry + NameAt, length + 1).ToArray();
                if (!name.AsSpan().SequenceEqual(".\0"u8) && !name.AsSpan().SequenceEqual("..\0"u8)) names.Add(name);
            }

            _ = CloseStreamCall(stream);
        }

        return names;
    }

    private static unsafe Facts? LookAt(int folder, byte[] name)
    {
        const int Size = 256, Basic = 0x7ff, RegularType = 0x8000;
        const int Links = 0x10, Mode = 0x1c, Number = 0x20, Length = 0x28, Blocks = 0x30, Major = 0x88, Minor = 0x8c;
        var buffer = stackalloc byte[Size];
        fixed (byte* bytes = name)
        {
            if (StatCall(folder, bytes, NotFollowed, Basic, buffer) != 0) return null;
        }

        var type = *(ushort*)(buffer + Mode) & TypeMask;
        return new Facts(
            type == FolderType, type == RegularType, *(uint*)(buffer + Links), *(long*)(buffer + Length),
            *(long*)(buffer + Blocks),
            (*(uint*)(buffer + Major), *(uint*)(buffer + Minor), *(ulong*)(buffer + Number)));
    }

    private static byte[] Terminated(string path) => Encoding.UTF8.GetBytes(path + "\0");

    private static IOException Failed(string what, byte[] name)
    {
        var error = Marshal.GetLastPInvokeError();
        return new IOException($"cannot {what} {Shown(name)}: {Marshal.GetPInvokeErrorMessage(error)}", error);
    }

    private sealed record Facts(bool IsFolder, bool IsRegular, uint Links, long Size, long Blocks, (uint, uint, ulong) File);

    [LibraryImport("libc", EntryPoint = "openat", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int OpenCall(int folder, byte* path, int flags);

    [LibraryImport("libc", EntryPoint = "unlinkat", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int UnlinkCall(int folder, byte* path, int flags);

    [LibraryImport("libc", EntryPoint = "renameat2", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int RenameCall(int from, byte* before, int to, byte* after, uint flags);

    [LibraryImport("libc", EntryPoint = "statx", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static unsafe partial int StatCall(int folder, byte* path, int flags, uint mask, byte* buffer);

    [LibraryImport("libc", EntryPoint = "chmod", SetLastError = true, StringMarshalling = StringMarshalling.Utf8)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int ChangeModeCall(string path, uint mode);

    [LibraryImport("libc", EntryPoint = "fdopendir", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial nint FolderStreamCall(int handle);

    [LibraryImport("libc", EntryPoint = "readdir64")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial nint ReadCall(nint stream);

    [LibraryImport("libc", EntryPoint = "closedir")]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int CloseStreamCall(nint stream);

    [LibraryImport("libc", EntryPoint = "close", SetLastError = true)]
    [DefaultDllImportSearchPaths(DllImportSearchPath.System32)]
    private static partial int CloseCall(int handle);
}
