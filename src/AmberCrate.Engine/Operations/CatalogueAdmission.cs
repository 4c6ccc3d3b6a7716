using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Engine.Operations;

/// <summary>Whether a catalogue may be added that is not signed.</summary>
internal static class CatalogueAdmission
{
    /// <summary>The option by which a person says so.</summary>
    public const string Option = "--unsigned";

    /// <summary>
    /// A folder of cards is its owner's own, and cannot be signed. What is published must be, unless the person says otherwise;
    /// over plain http there is no saying so: whoever is on the way could put in what they like.
    /// </summary>
    /// <exception cref="ProblemException">It may not.</exception>
    public static CatalogueTrust WithoutSignature(CatalogueName name, string location, bool isAllowed)
    {
        if (!CatalogueSources.IsPublished(location)) return CatalogueTrust.Cards;
        if (location.StartsWith("http://", StringComparison.Ordinal))
            throw new Problem(
                ProblemCode.Refused, $"the catalogue {name} at {location} is not signed",
                "over http, anybody on the way can change what it says",
                "have its maintainer sign it; or use an https: address").ToException();
        return isAllowed ? CatalogueTrust.NotSigned : throw new Problem(
            ProblemCode.Refused, $"the catalogue {name} at {location} is not signed",
            "whoever gets into its server decides what is installed here",
            $"have its maintainer sign it; to use it as it is, add {Option}").ToException();
    }
}
