using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Offers;

/// <summary>
/// An installed app stays with its catalogue: an app with the same id in another catalogue may be a different app. This is the
/// only place for that rule. Install, upgrade, equip, retry, undo and adopt all ask here. To change the catalogue, the user
/// uninstalls the app first, and sees both steps in a plan.
/// </summary>
public static class CatalogueChange
{
    /// <summary>The offers that an installed app may change to. If the app is not installed, all offers.</summary>
    /// <param name="installed">The app as it is; null where it is not there.</param>
    /// <param name="offers">What is offered of it.</param>
    public static IReadOnlyList<Offer> Allowed(InstalledApp? installed, IReadOnlyList<Offer> offers) =>
        installed is null ? offers : [.. offers.Where(offer => offer.Catalogue == installed.Catalogue)];

    /// <summary>Refuses to change an installed app to another catalogue's.</summary>
    /// <param name="installed">The app as it is; null where it is not there.</param>
    /// <param name="wanted">The catalogue that it would come from.</param>
    /// <exception cref="ProblemException">It is another catalogue.</exception>
    public static void RequireNone(InstalledApp? installed, CatalogueName wanted)
    {
        if (installed is not null && installed.Catalogue != wanted) throw Refusal(installed, wanted).ToException();
    }

    /// <summary>Why an installed app is not changed to another catalogue's, and what to do.</summary>
    public static Problem Refusal(InstalledApp installed, CatalogueName wanted) => new(
        ProblemCode.Refused,
        $"{installed.Id} is installed from {installed.Catalogue}, and cannot be changed to {wanted}",
        "the app of that id may be another one there",
        $"{NextCommand.Create("uninstall", installed.Id.Text)}, then install it from {wanted}");
}
