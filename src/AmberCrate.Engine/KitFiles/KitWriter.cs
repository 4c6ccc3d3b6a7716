using System.Buffers.Binary;
using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;

namespace AmberCrate.Engine.KitFiles;

/// <summary>Writes a kit: a tar archive (POSIX.1-2017, ustar) of an OCI image layout, from the first byte to the last.</summary>
/// <param name="manifest">What is in it.</param>
internal sealed class KitWriter(KitManifest manifest)
{
    private const int BufferSize = 1 << 20;
    private const long MostOctal = (1L << 33) - 1;

    private readonly IReadOnlyList<(string Name, byte[] Content)> _head = manifest.Head();

    /// <summary>How many bytes the kit has.</summary>
    public long Size => _head.Sum(file => Padded(file.Content.Length)) + Distinct.Sum(blob => Padded(blob.Size))
        + (2 * TarHeader.BlockSize);

    /// <summary>A blob that two apps share is written once.</summary>
    private IEnumerable<KitBlob> Distinct => manifest.Blobs.DistinctBy(blob => blob.Sha256);

    /// <summary>Writes it.</summary>
    /// <param name="target">Takes the bytes.</param>
    /// <param name="open">Opens the content of a blob.</param>
    /// <param name="progress">Receives how many bytes have been written.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">A blob is not what it is listed as.</exception>
    public async Task WriteAsync(
        SplitWriter target, Func<KitBlob, Stream> open, Action<long> progress, CancellationToken cancel)
    {
        var written = 0L;
        foreach (var (name, content) in _head)
        {
            target.Write(Header(name, content.Length));
            target.Write(content);
            target.Write(Padding(content.Length));
            written += Padded(content.Length);
        }

        foreach (var blob in Distinct)
        {
            await using var content = open(blob);
            target.Write(Header(blob.Path, blob.Size));
            await CopyAsync(blob, content, target, length => progress(written + length), cancel);
            target.Write(Padding(blob.Size));
            written += Padded(blob.Size);
        }

        target.Write(new byte[2 * TarHeader.BlockSize]);
    }

    /// <summary>Copies a blob; its digest is taken while it is written, on another processor.</summary>
    private static async Task CopyAsync(
        KitBlob blob, Stream content, SplitWriter target, Action<long> progress, CancellationToken cancel)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var (buffer, next) = (new byte[BufferSize], new byte[BufferSize]);
        var (length, hashing) = (0L, Task.CompletedTask);
        while (true)
        {
            cancel.ThrowIfCancellationRequested();
            var read = await content.ReadAtLeastAsync(buffer, BufferSize, throwOnEndOfStream: false, cancel);
            await hashing;
            if (read == 0) break;
            length += read;
            if (length > blob.Size) break;
            var (taken, count) = (buffer, read);
            hashing = Task.Run(() => hash.AppendData(taken, 0, count), cancel);
            target.Write(buffer.AsSpan(0, read));
            progress(length);
            (buffer, next) = (next, buffer);
        }

        if (length == blob.Size && Sha256Digest.FromBytes(hash.GetHashAndReset()) == blob.Sha256) return;
        throw new Problem(
            ProblemCode.NotVerified, $"{blob.Title ?? blob.Path} was changed while the kit was being written",
            "the kit was not finished", "run the command again; it downloads the file again").ToException();
    }

    private static byte[] Header(string name, long size)
    {
        var block = new byte[TarHeader.BlockSize];
        Encoding.ASCII.GetBytes(name, block);
        Put(100, "0000644");
        Put(108, "0000000");
        Put(116, "0000000");
        if (size <= MostOctal) Put(124, Convert.ToString(size, 8).PadLeft(11, '0'));
        else
        {
            block[124] = 0x80;
            BinaryPrimitives.WriteInt64BigEndian(block.AsSpan(128), size);
        }

        Put(136, "00000000000");
        block[156] = (byte)'0';
        Put(257, "ustar");
        Put(263, "00");
        block.AsSpan(148, 8).Fill((byte)' ');
        var sum = 0;
        foreach (var value in block) sum += value;
        Put(148, Convert.ToString(sum, 8).PadLeft(6, '0'));
        block[154] = 0;
        return block;

        void Put(int at, string text) => Encoding.ASCII.GetBytes(text, block.AsSpan(at));
    }

    private static byte[] Padding(long size) =>
        new byte[(int)((TarHeader.BlockSize - (size % TarHeader.BlockSize)) % TarHeader.BlockSize)];

    private static long Padded(long size) => TarHeader.BlockSize + size + Padding(size).Length;
}
