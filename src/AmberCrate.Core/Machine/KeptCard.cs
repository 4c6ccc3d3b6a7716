using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>
/// As much of a card as it takes to put one version of an app back from its file, without its catalogue. It is kept with the
/// records when that version is installed.
/// </summary>
/// <param name="Id">The app.</param>
/// <param name="Sha256">The digest of what delivered the version.</param>
/// <param name="Base">The address of the catalogue's folder.</param>
/// <param name="Card">The card, with this release and these files only.</param>
public sealed record KeptCard(AppId Id, Sha256Digest Sha256, Uri Base, AppCard Card)
{
    /// <summary>What to keep of a card.</summary>
    /// <param name="card">The card.</param>
    /// <param name="release">The release that is installed.</param>
    /// <param name="delivery">The files that it comes from.</param>
    /// <param name="sha256">The digest of the delivery.</param>
    /// <param name="location">The address of the catalogue's folder.</param>
    public static KeptCard FromCard(AppCard card, Release release, Delivery delivery, Sha256Digest sha256, Uri location) => new(
        card.Id, sha256, location, card with
        {
            Description = null,
            Screenshots = [],
            Translations = [],
            Keywords = [],
            Releases = [release with { Notes = null, Withdrawn = null, Artifacts = delivery.Files }],
        });
}
