using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>Says which catalogue an app is taken from first.</summary>
/// <param name="session">The session.</param>
public sealed class RankCatalogues(Session session)
{
    /// <summary>Puts the named catalogues first, in their order.</summary>
    /// <param name="order">Catalogues in their new order; the others follow as they were.</param>
    /// <exception cref="ProblemException">There is no catalogue of such a name.</exception>
    public CatalogueList Run(IReadOnlyList<CatalogueName> order)
    {
        using var station = new RootOpener(session).ToChangeAtOnce();
        foreach (var name in order) station.Catalogues.Require(name);
        station.Records.Rank(order);
        return CatalogueList.Read(station.Catalogues, session.Now);
    }
}
