using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>Forgets a catalogue; installed apps stay.</summary>
/// <param name="session">The session.</param>
public sealed class DropCatalogue(Session session)
{
    /// <summary>Removes the catalogue and its data; installed apps stay.</summary>
    /// <param name="name">The catalogue.</param>
    /// <exception cref="ProblemException">There is no catalogue of such a name.</exception>
    public DroppedCatalogue Run(CatalogueName name)
    {
        using var station = new RootOpener(session).ToChangeAtOnce(makesRoom: true);
        station.Catalogues.Require(name);

        // The data first, which can be downloaded again: where that fails, the catalogue is still there to be dropped.
        station.Cache.Drop(name);
        station.Records.DropCatalogue(name);
        return new DroppedCatalogue(name, station.Apps.Read().Apps.Count(app => app.Catalogue == name));
    }
}
