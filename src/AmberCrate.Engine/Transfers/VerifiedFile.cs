using System.Buffers;
using System.Security.Cryptography;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Running;

namespace AmberCrate.Engine.Transfers;

/// <summary>
/// A file on disk whose size and digest have been checked. There is no other way to make one, and unpacking takes
/// nothing else, so that leaving the check out does not compile.
/// </summary>
public sealed class VerifiedFile
{
    private const int BufferSize = 1 << 17;

    private VerifiedFile(string path, Sha256Digest sha256) => (Path, Sha256) = (path, sha256);

    /// <summary>The file.</summary>
    public string Path { get; }

    /// <summary>Its digest.</summary>
    public Sha256Digest Sha256 { get; }

    /// <summary>Writes a stream to a new file, hashing on the way; the file is removed unless it verifies.</summary>
    /// <param name="source">The bytes; never more than the expected number and one are read.</param>
    /// <param name="path">The file to create.</param>
    /// <param name="size">The size it must have, in bytes.</param>
    /// <param name="sha256">The digest it must have.</param>
    /// <param name="progress">Takes the number of bytes that have arrived.</param>
    /// <param name="cancel">Stops, and removes the file.</param>
    /// <exception cref="ProblemException">Size or digest differ.</exception>
    public static async Task<VerifiedFile> ReceiveAsync(Stream source, string path, long size, Sha256Digest sha256, ByteCount? progress, CancellationToken cancel)
    {
        try
        {
            await using (var file = new FileStream(path, new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.Write, BufferSize = 0 }))
            {
                await CheckAsync(source, file, size, sha256, progress, cancel);
                file.Flush(flushToDisk: true);
            }

            return new VerifiedFile(path, sha256);
        }
        catch
        {
            File.Delete(path);
            throw;
        }
    }

    /// <summary>Hashes a file that is there already; null where size or digest differ.</summary>
    public static async Task<VerifiedFile?> FindAsync(string path, long size, Sha256Digest sha256, CancellationToken cancel)
    {
        if (!File.Exists(path) || new FileInfo(path).Length != size) return null;
        try
        {
            await using var file = new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.Read, 0);
            await CheckAsync(file, Stream.Null, size, sha256, null, cancel);
            return new VerifiedFile(path, sha256);
        }
        catch (ProblemException)
        {
            return null;
        }
    }

    /// <summary>Renames the file.</summary>
    public VerifiedFile MoveTo(string path)
    {
        Posix.Rename(Path, path);
        return new VerifiedFile(path, Sha256);
    }

    private static async Task CheckAsync(Stream source, Stream target, long size, Sha256Digest sha256, ByteCount? progress, CancellationToken cancel)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        var buffer = ArrayPool<byte>.Shared.Rent(BufferSize);
        try
        {
            var arrived = 0L;
            for (int read; (read = await source.ReadAsync(buffer, cancel)) > 0;)
            {
                arrived += read;
                if (arrived > size) throw Differs("it is too large", $"the catalogue says {size} bytes, and more arrive");
                hash.AppendData(buffer, 0, read);
                await target.WriteAsync(buffer.AsMemory(0, read), cancel);
                progress?.Invoke(arrived, size);
            }

            if (arrived < size) throw Differs("it is cut short", $"the catalogue says {size} bytes, {arrived} arrived");
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }

        var found = Sha256Digest.FromBytes(hash.GetHashAndReset());
        if (found != sha256) throw Differs("its digest is wrong", $"the catalogue says sha256 {sha256}, the file has {found}");
    }

    private static ProblemException Differs(string what, string why) => new Problem(
        ProblemCode.NotVerified,
        $"the downloaded file does not verify: {what}",
        why,
        "acrate catalogue refresh, in case the catalogue has changed; otherwise tell its keeper, and do not use the file").ToException();
}
