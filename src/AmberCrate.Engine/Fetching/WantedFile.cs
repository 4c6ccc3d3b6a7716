using AmberCrate.Core.Plans;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Fetching;

/// <summary>An artifact to be fetched.</summary>
/// <param name="App">The app that it delivers, for messages.</param>
/// <param name="Sha256">The digest that it must have.</param>
/// <param name="Size">The size that it must have, in bytes; null where only the digest is known.</param>
/// <param name="Sources">Where it lies: the address of the card, then its mirrors.</param>
public sealed record WantedFile(string App, Sha256Digest Sha256, long? Size, IReadOnlyList<Uri> Sources)
{
    /// <summary>The address of the catalogue that names the sources; null where a user has given them.</summary>
    public Uri? Catalogue { get; init; }

    /// <summary>
    /// The file that an item of a plan needs. Where the user has stated a digest, the size on the card says nothing.
    /// </summary>
    public static WantedFile FromItem(PlanItem item)
    {
        var (artifact, offer) = (item.Artifact!, item.Offer!);
        return new WantedFile(
            item.Id, item.FileDigest!, item.StatedSha256 is null ? artifact.DownloadSize : null,
            [artifact.Location.Resolve(offer.Base), .. artifact.Mirrors.Select(mirror => mirror.Resolve(offer.Base))])
        {
            Catalogue = offer.Base,
        };
    }
}
