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
    /// The files that an item of a plan needs, in the order of unpacking. Where the user has stated a digest, the size on the
    /// card
    /// says nothing.
    /// </summary>
    public static IReadOnlyList<WantedFile> ListFor(PlanItem item) => [.. item.FilesToFetch.Select(one => new WantedFile(
        item.Id, one.Digest, item.StatedSha256 is null ? one.File.DownloadSize : null,
        [.. one.File.Mirrors.Prepend(one.File.Location).Select(place => place.Resolve(item.Offer!.Base))])
    {
        Catalogue = item.Offer!.Base,
    })];
}
