using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>Lists the catalogues of a machine.</summary>
/// <param name="session">The session.</param>
public sealed class ListCatalogues(Session session)
{
    /// <summary>The catalogues, in order of preference.</summary>
    public CatalogueList Run()
    {
        using var station = new RootOpener(session).ToRead();
        return CatalogueList.Read(station.Catalogues, session.Now);
    }
}
