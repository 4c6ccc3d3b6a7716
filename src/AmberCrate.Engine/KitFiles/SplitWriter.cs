using AmberCrate.Core.Problems;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.KitFiles;

/// <summary>
/// Writes a kit as one file or several. What an earlier try has left is compared with what is to be written, and kept as far
/// as it is the same: a slow stick is not written twice. The files get their names when all of them are whole and on the disk.
/// </summary>
/// <param name="kit">The kit.</param>
/// <param name="most">How many bytes each file has at most.</param>
internal sealed class SplitWriter(string kit, long most) : IDisposable
{
    private const string Ending = ".part";

    private readonly byte[] _compared = new byte[1 << 16];

    // Each part stays locked until the kit has its name.
    private readonly List<FileStream> _open = [];
    private FileStream? _file;
    private long _there, _at;
    private int _parts;

    /// <summary>How many bytes were there from an earlier try.</summary>
    public long Kept { get; private set; }

    /// <summary>
    /// How many bytes of the room that a kit takes are there from an earlier try: they are written over. Parts that are larger,
    /// or that this kit does not have, give no room before it is done.
    /// </summary>
    /// <param name="kit">The kit.</param>
    /// <param name="most">How many bytes each file has at most.</param>
    /// <param name="size">How many bytes the kit has.</param>
    public static long RoomOf(string kit, long most, long size)
    {
        var room = 0L;
        for (var number = 1; size > 0; number++, size -= most)
        {
            if (new FileInfo(KitParts.FileOf(kit, number) + Ending) is { Exists: true } part)
                room += Math.Min(part.Length, Math.Min(most, size));
        }

        return room;
    }

    /// <summary>The parts of an unfinished kit that are really on the disk, with their sizes.</summary>
    public static IReadOnlyList<(string File, long Size)> LeftOf(string kit)
    {
        List<(string, long)> left = [];
        for (var number = 1; new FileInfo(KitParts.FileOf(kit, number) + Ending) is { Exists: true } part; number++)
            left.Add((part.FullName, part.Length));
        return left;
    }

    /// <summary>Writes bytes.</summary>
    public void Write(ReadOnlySpan<byte> bytes)
    {
        while (!bytes.IsEmpty)
        {
            if (_file is null || _at == most) Next();
            var piece = bytes[..(int)Math.Min(bytes.Length, most - _at)];
            Put(piece);
            bytes = bytes[piece.Length..];
        }
    }

    /// <summary>Has everything on the disk, and gives the files their names.</summary>
    /// <returns>The files.</returns>
    /// <param name="beforeNames">Is called when all bytes are on the disk, and before the files get their names.</param>
    public IReadOnlyList<string> Finish(Action? beforeNames = null)
    {
        Flush();
        beforeNames?.Invoke();
        List<string> files = [.. Enumerable.Range(1, _parts).Select(number => KitParts.FileOf(kit, number))];

        // The first last: where it has its name, the others have theirs.
        foreach (var file in files.AsEnumerable().Reverse()) Posix.Rename(file + Ending, file);
        Close();
        for (var number = _parts + 1; File.Exists(KitParts.FileOf(kit, number) + Ending); number++)
            File.Delete(KitParts.FileOf(kit, number) + Ending);
        Posix.FlushFolder(Path.GetDirectoryName(Path.GetFullPath(kit))!);
        return files;
    }

    /// <inheritdoc/>
    public void Dispose() => Close();

    private void Put(ReadOnlySpan<byte> piece)
    {
        while (!piece.IsEmpty && _at < _there)
        {
            var wanted = (int)Math.Min(Math.Min(piece.Length, _compared.Length), _there - _at);
            var read = RandomAccess.Read(_file!.SafeFileHandle, _compared.AsSpan(0, wanted), _at);
            if (read == 0 || !piece[..read].SequenceEqual(_compared.AsSpan(0, read)))
            {
                _there = _at;
                break;
            }

            (_at, Kept) = (_at + read, Kept + read);
            piece = piece[read..];
        }

        if (piece.IsEmpty) return;
        RandomAccess.Write(_file!.SafeFileHandle, piece, _at);
        _at += piece.Length;
    }

    private void Next()
    {
        Flush();
        var part = KitParts.FileOf(kit, ++_parts) + Ending;

        // Another user may have put a file there, to have it written to, or to change it later.
        var opened = Posix.OpenOwn(part) ?? throw new Problem(
            ProblemCode.Locked, $"another command is writing {part}", "nothing has been changed",
            "wait until it has ended, or name another file").ToException();
        _file = new FileStream(opened, FileAccess.ReadWrite, 0);
        _open.Add(_file);
        (_there, _at) = (_file.Length, 0);
    }

    private void Flush()
    {
        if (_file is null) return;
        _file.SetLength(_at);
        _file.Flush(flushToDisk: true);
        _file = null;
    }

    private void Close()
    {
        foreach (var file in _open)
        {
            Posix.Release(file.SafeFileHandle);
            file.Dispose();
        }

        _open.Clear();
    }
}
