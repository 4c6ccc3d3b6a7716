using AmberCrate.Core.Values;

namespace AmberCrate.Engine.KitFiles;

/// <summary>A blob of a kit, as its manifest lists it (OCI image specification 1.1, "Content Descriptors").</summary>
/// <param name="MediaType">What it is, one of <see cref="KitMedia"/>.</param>
/// <param name="Sha256">Its digest, which is its name.</param>
/// <param name="Size">Its size in bytes.</param>
public sealed record KitBlob(string MediaType, Sha256Digest Sha256, long Size)
{
    /// <summary>What it is called, for people and other programs; null for nothing.</summary>
    public string? Title { get; init; }

    /// <summary>The catalogue whose cards or signatures it holds; null for other blobs.</summary>
    public string? Catalogue { get; init; }

    /// <summary>The base address of the relative locations in those cards; null for other blobs.</summary>
    public string? Base { get; init; }

    /// <summary>Where it is in the kit.</summary>
    public string Path => $"blobs/sha256/{Sha256.Hex}";
}
