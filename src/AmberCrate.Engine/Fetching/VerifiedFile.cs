using System.Buffers;
using System.Security.Cryptography;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Fetching;

/// <summary>
/// A file on disk whose digest, and size where one is known, have been checked. There is no other way to make one, and unpacking
/// takes nothing else, so that leaving the check out does not compile.
/// </summary>
public sealed class VerifiedFile
{
    private const int BufferSize = 1 << 17;

    private VerifiedFile(string path, Sha256Digest sha256, FileIdentity identity) =>
        (Path, Sha256, Identity) = (path, sha256, identity);

    /// <summary>The file.</summary>
    public string Path { get; }

    /// <summary>Its digest.</summary>
    public Sha256Digest Sha256 { get; }

    /// <summary>Which file it was when its digest was checked.</summary>
    internal FileIdentity Identity { get; }

    /// <summary>Opens the file for reading; null where it is another one by now, or has been changed.</summary>
    public FileStream? OpenUnchanged()
    {
        try
        {
            var file = new FileStream(Path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete, BufferSize);
            if (FileIdentity.Read(file.SafeFileHandle) == Identity) return file;
            file.Dispose();
            return null;
        }
        catch (Exception gone) when (gone is FileNotFoundException or DirectoryNotFoundException)
        {
            return null;
        }
    }

    /// <summary>Hashes a file that is there already; null where size or digest differ.</summary>
    public static async Task<VerifiedFile?> FindAsync(string path, long? size, Sha256Digest sha256, CancellationToken cancel)
    {
        try
        {
            await using var file =
                new FileStream(path, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete, 0);
            if (size is not null && file.Length != size) return null;
            var identity = FileIdentity.Read(file.SafeFileHandle);
            using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
            await HashAsync(file, hash, cancel);
            return Sha256Digest.FromBytes(hash.GetHashAndReset()) == sha256 ? new VerifiedFile(path, sha256, identity) : null;
        }
        catch (Exception gone) when (gone is FileNotFoundException or DirectoryNotFoundException)
        {
            return null;
        }
    }

    /// <summary>Writes a stream to a new file, hashing on the way; the file is removed unless it verifies.</summary>
    /// <param name="source">The bytes.</param>
    /// <param name="path">The file to create.</param>
    /// <param name="size">The size it must have, in bytes.</param>
    /// <param name="sha256">The digest it must have.</param>
    /// <param name="cancel">Stops, and removes the file.</param>
    /// <exception cref="ProblemException">Size or digest differ.</exception>
    public static async Task<VerifiedFile> ReceiveAsync(
        Stream source, string path, long size, Sha256Digest sha256, CancellationToken cancel)
    {
        try
        {
            await using var incoming = Incoming.TryOpen(path) ?? throw new IOException($"another program is writing {path}");
            incoming.Restart();
            await incoming.AppendAsync(source, size, sha256, null, cancel);
            return incoming.Finish(size, sha256, path, flush: true)
                ?? throw Differs(size, sha256, incoming.Length, incoming.Found).ToException();
        }
        catch
        {
            File.Delete(path);
            throw;
        }
    }

    /// <summary>Says how bytes that have arrived differ from those that were wanted.</summary>
    /// <param name="size">The size that was wanted; null where none was.</param>
    /// <param name="sha256">The digest that was wanted.</param>
    /// <param name="arrived">How many bytes there are.</param>
    /// <param name="found">Their digest; null where there were too many to tell.</param>
    internal static Problem Differs(long? size, Sha256Digest sha256, long arrived, Sha256Digest? found) => new(
        ProblemCode.NotVerified,
        "the file does not verify: "
            + (size is null || arrived == size ? "its digest is wrong" : arrived > size ? "it is too large" : "it is too small"),
        $"expected sha256 {sha256}{(size is null ? "" : $", {size} bytes")}; found "
            + $"{(found is null ? $"more than {arrived} bytes" : $"sha256 {found}, {arrived} bytes")}",
        $"{NextCommand.Create("catalogue refresh")}, in case the catalogue has changed; otherwise tell its maintainer, "
            + "and do not use the file");

    /// <summary>Renames the file.</summary>
    public VerifiedFile MoveTo(string path)
    {
        Posix.Rename(Path, path);
        var identity = FileIdentity.At(path);
        return Identity.IsSameFile(identity)
            ? new VerifiedFile(path, Sha256, identity!)
            : throw new IOException($"{Path} was replaced after it was checked");
    }

    private static async Task HashAsync(Stream source, IncrementalHash hash, CancellationToken cancel)
    {
        var buffer = ArrayPool<byte>.Shared.Rent(BufferSize);
        try
        {
            for (int read; (read = await source.ReadAsync(buffer, cancel)) > 0;) hash.AppendData(buffer, 0, read);
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(buffer);
        }
    }

    /// <summary>
    /// A file that is not whole yet: it grows by what arrives, and the digest with it. Only one program at a time has it open.
    /// </summary>
    public sealed class Incoming : IAsyncDisposable
    {
        /// <summary>
        /// How many bytes more than wanted are still hashed, so that the digest of what a server sends instead is known.
        /// </summary>
        private const long MostBeyond = 1L << 30;

        private readonly FileStream _file;
        private readonly IncrementalHash _hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        private readonly string _path;

        private Incoming(FileStream file, string path) => (_file, _path) = (file, path);

        /// <summary>How many bytes have arrived, those included that were there before.</summary>
        public long Length { get; private set; }

        /// <summary>
        /// The digest that <see cref="Finish"/> has found; null where it has not been asked, or there were too many bytes.
        /// </summary>
        public Sha256Digest? Found { get; private set; }

        /// <summary>
        /// Opens a file that may be there already; null where another program has it open, or has just finished it.
        /// </summary>
        public static Incoming? TryOpen(string path)
        {
            if (Posix.OpenAlone(path) is not { } handle) return null;

            // Between opening and locking, the other one may have given the file its final name.
            if (FileIdentity.Read(handle).IsSameFile(FileIdentity.At(path)))
                return new Incoming(new FileStream(handle, FileAccess.ReadWrite, 0), path);
            handle.Dispose();
            return null;
        }

        /// <summary>Goes on from what an earlier try has left.</summary>
        public async Task TakeUpAsync(CancellationToken cancel)
        {
            _file.Position = 0;
            await HashAsync(_file, _hash, cancel);
            Length = _file.Length;
        }

        /// <summary>Throws away the partial file.</summary>
        public void Restart()
        {
            _file.SetLength(0);
            _file.Position = 0;
            _hash.GetHashAndReset();
            Length = 0;
        }

        /// <summary>Takes what a stream delivers, to its end. What is more than wanted is hashed, but not written.</summary>
        /// <param name="source">The bytes.</param>
        /// <param name="wanted">How many bytes the whole file should have; null where that is not known.</param>
        /// <param name="sha256">Which digest it should have, for the message.</param>
        /// <param name="progress">Takes the number of bytes that are there, and the number wanted.</param>
        /// <param name="cancel">Stops; what has arrived stays.</param>
        public async Task AppendAsync(
            Stream source, long? wanted, Sha256Digest sha256, ByteCount? progress, CancellationToken cancel)
        {
            var buffer = ArrayPool<byte>.Shared.Rent(BufferSize);
            try
            {
                for (int read; (read = await source.ReadAsync(buffer, cancel)) > 0;)
                {
                    if (wanted is null || Length + read <= wanted) await _file.WriteAsync(buffer.AsMemory(0, read), cancel);
                    _hash.AppendData(buffer, 0, read);
                    Length += read;
                    if (Length > (wanted ?? long.MaxValue - MostBeyond) + MostBeyond)
                    {
                        var arrived = Length;
                        Restart();
                        throw Differs(wanted, sha256, arrived, null).ToException();
                    }

                    progress?.Invoke(Length, wanted ?? 0);
                }
            }
            finally
            {
                ArrayPool<byte>.Shared.Return(buffer);
            }
        }

        /// <summary>Checks what has arrived, and gives it its final name; null where it is not what was wanted.</summary>
        /// <param name="size">The size that it must have; null where only the digest is known.</param>
        /// <param name="sha256">The digest that it must have.</param>
        /// <param name="path">The final name.</param>
        /// <param name="flush">Whether it must survive a power loss from here on.</param>
        public VerifiedFile? Finish(long? size, Sha256Digest sha256, string path, bool flush)
        {
            Found = Sha256Digest.FromBytes(_hash.GetHashAndReset());
            if (Found != sha256 || (size is not null && Length != size)) return null;
            if (flush) _file.Flush(flushToDisk: true);
            if (path != _path) Posix.Rename(_path, path);
            return new VerifiedFile(path, sha256, FileIdentity.Read(_file.SafeFileHandle));
        }

        /// <inheritdoc/>
        public async ValueTask DisposeAsync()
        {
            if (!_file.SafeFileHandle.IsClosed) Posix.Release(_file.SafeFileHandle);
            await _file.DisposeAsync();
            _hash.Dispose();
        }
    }
}
