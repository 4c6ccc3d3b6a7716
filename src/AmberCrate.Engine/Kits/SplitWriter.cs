using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Kits;

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
    private FileStream? _file;
    private long _there, _at;
    private int _parts;

    /// <summary>How many bytes were there from an earlier try.</summary>
    public long Kept { get; private set; }

    /// <summary>How many bytes an earlier try has left.</summary>
    public static long LeftOf(string kit)
    {
        var left = 0L;
        for (var number = 1; new FileInfo(KitParts.FileOf(kit, number) + Ending) is { Exists: true } part; number++)
            left += part.Length;
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
    public IReadOnlyList<string> Finish()
    {
        Close();
        List<string> files = [.. Enumerable.Range(1, _parts).Select(number => KitParts.FileOf(kit, number))];

        // The first last: where it has its name, the others have theirs.
        foreach (var file in files.AsEnumerable().Reverse()) Posix.Rename(file + Ending, file);
        for (var number = _parts + 1; File.Exists(KitParts.FileOf(kit, number) + Ending); number++)
            File.Delete(KitParts.FileOf(kit, number) + Ending);
        Posix.FlushFolder(Path.GetDirectoryName(Path.GetFullPath(kit))!);
        return files;
    }

    /// <inheritdoc/>
    public void Dispose() => _file?.Dispose();

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
        Close();
        var part = KitParts.FileOf(kit, ++_parts) + Ending;

        // No try leaves a link: another user has laid it there, to have what it leads to overwritten.
        if (Posix.LinkAt(part) is not null) File.Delete(part);
        _file = new FileStream(part, FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None, 0);
        (_there, _at) = (_file.Length, 0);
    }

    private void Close()
    {
        if (_file is null) return;
        _file.SetLength(_at);
        _file.Flush(flushToDisk: true);
        _file.Dispose();
        _file = null;
    }
}
