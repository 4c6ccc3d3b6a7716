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
            return new CatalogueSnapshot(document.Settings, address, content.Mark, document.Apps, [.. document.Parts
                .Select(part =>
                new PartContent(
                    part.Sha256, part.Layer, part.Lines, token => FetchAsync(part.Path, part.Size, part.Sha256, token),
                    packed => Unpack(part, packed)) { Path = part.Path })])
            {
                Popularity = document.Popularity,
                Bundles = [.. document.Bundles.Select(bundle => new BundleContent(
                    bundle, token => FetchAsync(bundle.Path, bundle.Size, bundle.Sha256, token)))],
            };
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw Failed(fault).ToException(fault);
        }
    }

    private async Task<byte[]> FetchAsync(string path, long size, Sha256Digest sha256, CancellationToken cancel)
    {
        try
        {
            using var content = await bytes.OpenAsync(new FetchRequest(new Uri(address, path)), cancel);
            var packed = await ReadAtMostAsync(content!.Stream, size, path, cancel);
            var found = Sha256Digest.FromBytes(SHA256.HashData(packed));
            if (found != sha256)
                throw new MalformedException($"{path} does not verify: {packed.Length} bytes of sha256 {found} arrived");
            return packed;
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw Failed(fault).ToException(fault);
        }
    }

    private byte[] Unpack(PartListing part, byte[] packed)
    {
        try
        {
            return PartText.Unpack(part, packed);
        }
        catch (MalformedException fault)
        {
            throw Failed(fault).ToException(fault);
        }
    }

    private Problem Failed(Exception fault)
    {
        var problem = IoProblems.ToProblem(fault,
            $"the catalogue at {(address.IsFile ? address.LocalPath : address)} cannot be read");
        if (!address.IsFile && SourceFault.IsMissing(fault))
            return problem with
            {
                Remedy = $"check the address: it must lead to the folder that holds {CatalogueDocument.FileName}",
            };
        return problem.Code == ProblemCode.NotVerified && problem.Remedy.IsEmpty
            ? problem with { Remedy = "try again in case it is just being published, otherwise tell its maintainer" }
            : problem;
    }

    private static async Task<byte[]> ReadAtMostAsync(Stream stream, long most, string what, CancellationToken cancel) =>
        await BoundedRead.ToEndAsync(stream, most, cancel)
            ?? throw new MalformedException($"{what} is larger than {most} bytes");
}
