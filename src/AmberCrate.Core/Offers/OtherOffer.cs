using AmberCrate.Core.Values;

namespace AmberCrate.Core.Offers;

/// <summary>The same id in another catalogue: the same app, or one that only looks like it.</summary>
/// <param name="Offer">What that catalogue offers.</param>
/// <param name="Choice">What this machine would get from there; null where nothing fits.</param>
/// <param name="Differences">In what it differs, in the words of the card's keys.</param>
public sealed record OtherOffer(Offer Offer, ReleaseChoice? Choice, IReadOnlyList<string> Differences)
{
    /// <summary>Compares an offer with the studied one.</summary>
    /// <param name="other">The other offer.</param>
    /// <param name="studied">The studied one.</param>
    /// <param name="choice">What this machine would get of the studied one.</param>
    /// <param name="machine">The machine's platform.</param>
    public static OtherOffer Compare(Offer other, Offer studied, ReleaseChoice? choice, Platform machine)
    {
        var (here, there) = (studied.Card, other.Card);
        var itsChoice = ReleaseChoice.Find([other], null, machine);
        var differences = new List<string>();
        if (itsChoice?.Release.Version != choice?.Release.Version) differences.Add("version");
        if (here.Developer?.Name != there.Developer?.Name || here.Developer?.Id != there.Developer?.Id)
            differences.Add("developer");
        if (HasOtherDigest(itsChoice, studied, machine)) differences.Add("digest");
        if (here.Name != there.Name) differences.Add("name");
        if (here.Licence != there.Licence) differences.Add("licence");
        if (here.Homepage != there.Homepage) differences.Add("homepage");
        return new OtherOffer(other, itsChoice, differences);
    }

    /// <summary>Whether the studied catalogue has the same version too, as another file.</summary>
    private static bool HasOtherDigest(ReleaseChoice? its, Offer studied, Platform machine) =>
        its is not null
        && studied.Card.Releases.FirstOrDefault(
            release => release.Version == its.Release.Version)?.DeliveryFor(machine) is { } same
        && same.Sha256 != its.Delivery.Sha256;
}
