using System.Net;
using System.Security.Cryptography;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Catalogues;

/// <summary>A published catalogue, on disk or behind a web server.</summary>
public sealed class PublishedCatalogue(Uri address, IByteSource bytes) : ICatalogueSource
{
    /// <summary>Asks for the entry document; null where it is still what the mark says.</summary>
    /// <exception cref="ProblemException">The catalogue cannot be reached, or its entry document cannot be read.</exception>
    public async Task<CatalogueSnapshot?> ReadAsync(string? knownMark, CancellationToken cancel)
    {
        try
        {
            using var content = await bytes.OpenAsync(
                new FetchRequest(new Uri(address, CatalogueDocument.FileName)) { KnownMark = knownMark }, cancel);
            if (content is null) return null;
            var read = await ReadAtMostAsync(content.Stream, CatalogueDocument.MaxSize, "the entry document", cancel);
            var document = CatalogueDocument.Read(read);
            return new CatalogueSnapshot(document.Settings, address, content.Mark, document.Apps, [.. document.Shards
                .Select(shard =>
                new ShardContent(
                    shard.Sha256, shard.Layer, shard.Lines, token => FetchShardAsync(shard, token),
                    packed => Unpack(shard, packed)))]);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw Failed(fault).ToException(fault);
        }
    }

    private async Task<byte[]> FetchShardAsync(ShardListing shard, CancellationToken cancel)
    {
        try
        {
            using var content = await bytes.OpenAsync(new FetchRequest(new Uri(address, shard.Path)), cancel);
            var packed = await ReadAtMostAsync(content!.Stream, shard.Size, shard.Path, cancel);
            var found = Sha256Digest.FromBytes(SHA256.HashData(packed));
            if (found != shard.Sha256)
                throw new MalformedException($"{shard.Path} does not verify: {packed.Length} bytes of sha256 {found} arrived");
            return packed;
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw Failed(fault).ToException(fault);
        }
    }

    private byte[] Unpack(ShardListing shard, byte[] packed)
    {
        try
        {
            return ShardText.Unpack(shard, packed);
        }
        catch (MalformedException fault)
        {
            throw Failed(fault).ToException(fault);
        }
    }

    private Problem Failed(Exception fault)
    {
        var problem = IoProblems.Of(fault, $"the catalogue at {(address.IsFile ? address.LocalPath : address)} cannot be read");
        if (fault is HttpRequestException { StatusCode: HttpStatusCode.NotFound })
            return problem with
            {
                Remedy = $"check the address: it must lead to the folder that holds {CatalogueDocument.FileName}",
            };
        return problem.Code == ProblemCode.NotVerified && problem.Remedy.IsEmpty
            ? problem with { Remedy = "try again in case it is just being published, otherwise tell its keeper" }
            : problem;
    }

    private static async Task<byte[]> ReadAtMostAsync(Stream stream, long most, string what, CancellationToken cancel)
    {
        using var content = new MemoryStream();
        var buffer = new byte[1 << 16];
        for (int read; (read = await stream.ReadAsync(buffer, cancel)) > 0;)
        {
            if (content.Length + read > most) throw new MalformedException($"{what} is larger than {most} bytes");
            content.Write(buffer, 0, read);
        }

        return content.ToArray();
    }
}
