using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Engine.Sessions;

/// <summary>
/// Whether a catalogue may be added that is not signed. A signed catalogue stays signed until the user says otherwise.
/// </summary>
internal static class CatalogueAdmission
{
    /// <summary>The option that allows it.</summary>
    public const string Option = "--unsigned";

    /// <summary>
    /// A folder of cards cannot be signed; users add their own. A published catalogue must be signed, and so must a catalogue
    /// with the name of one that was signed here before. The user can allow both with <c>--unsigned</c>, but not over plain http:
    /// anybody on the network could change the catalogue.
    /// </summary>
    /// <param name="name">The catalogue.</param>
    /// <param name="location">Where it is.</param>
    /// <param name="before">The root under which a catalogue of this name was trusted before; null for none.</param>
    /// <param name="isAllowed">Whether the user gave <c>--unsigned</c>.</param>
    /// <exception cref="ProblemException">It may not.</exception>
    public static CatalogueTrust WithoutSignature(
        CatalogueName name, string location, Sha256Digest? before, bool isAllowed)
    {
        if (before is not null && !isAllowed)
            throw new Problem(
                ProblemCode.Refused, $"the catalogue {name} was signed when it was here before, and is not signed at {location}",
                "it may be a different catalogue",
                $"choose another name; to use it as it is, add {Option}").ToException();
        if (!CatalogueSources.IsPublished(location)) return CatalogueTrust.Cards;
        if (Address.IsPlain(location))
            throw new Problem(
                ProblemCode.Refused, $"the catalogue {name} at {location} is not signed",
                "over http, anybody on the way can change what it says",
                "have its maintainer sign it; or use an https: address").ToException();
        return isAllowed ? CatalogueTrust.NotSigned : throw new Problem(
            ProblemCode.Refused, $"the catalogue {name} at {location} is not signed",
            "whoever gets into its server decides what is installed here",
            $"have its maintainer sign it; to use it as it is, add {Option}").ToException();
    }

    /// <summary>
    /// The same for a catalogue that a bundle adds. A folder of cards in a bundle was not chosen by the user.
    /// </summary>
    /// <exception cref="ProblemException">It may not.</exception>
    public static CatalogueTrust OfBundle(CatalogueName name, string location, Sha256Digest? before, bool isAllowed) =>
        isAllowed || CatalogueSources.IsPublished(location)
            ? WithoutSignature(name, location, before, isAllowed)
            : throw new Problem(
                ProblemCode.Refused, $"the bundle adds the catalogue {name}, an unsigned folder of cards",
                $"anybody who can write to {location} decides what is installed here",
                $"{NextCommand.Create("catalogue add", name.Text, location)} if it is yours; to use it as it is, add {Option}")
                .ToException();
}
