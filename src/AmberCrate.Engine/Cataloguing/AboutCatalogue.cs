using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>Says what data and trust there is of a catalogue.</summary>
/// <param name="session">The session.</param>
public sealed class AboutCatalogue(Session session)
{
    /// <summary>Reads what the cache and the trust store have of the catalogue.</summary>
    /// <exception cref="ProblemException">There is no catalogue of this name.</exception>
    public CatalogueAbout Run(CatalogueName name)
    {
        using var station = new RootOpener(session).ToRead();
        station.Catalogues.Require(name);
        var catalogue = station.Records.Catalogues().First(one => one.Name == name);
        return new CatalogueAbout(
            catalogue, station.Cache.StateOf(catalogue),
            catalogue.Trust.Root is { } root ? station.Trust.StateOf(root) : null, session.Now);
    }
}
