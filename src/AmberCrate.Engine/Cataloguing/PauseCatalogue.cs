using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>Leaves a catalogue out, or asks it again.</summary>
/// <param name="session">The session.</param>
public sealed class PauseCatalogue(Session session)
{
    /// <summary>Pauses the catalogue, or resumes it.</summary>
    /// <param name="name">The catalogue.</param>
    /// <param name="isPaused">Whether it is left out from now on.</param>
    /// <exception cref="ProblemException">There is no catalogue of such a name.</exception>
    public CatalogueList Run(CatalogueName name, bool isPaused)
    {
        using var station = new RootOpener(session).ToChangeAtOnce();
        station.Catalogues.Require(name);
        station.Records.Pause(name, isPaused);
        return CatalogueList.Read(station.Catalogues, session.Now);
    }
}
