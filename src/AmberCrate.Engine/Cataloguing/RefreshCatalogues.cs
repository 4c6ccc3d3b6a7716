using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>Brings catalogue data up to date.</summary>
/// <param name="session">The session.</param>
public sealed class RefreshCatalogues(Session session)
{
    /// <summary>Refreshes the named catalogues, or all that are not paused.</summary>
    /// <param name="names">The catalogues; none for all that are not paused.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">There is no catalogue of such a name.</exception>
    public async Task<IReadOnlyList<RefreshResult>> RunAsync(IReadOnlyList<CatalogueName> names, CancellationToken cancel)
    {
        using var station = new RootOpener(session).ToRefresh();
        foreach (var name in names) station.Catalogues.Require(name);
        var wanted = station.Records.Catalogues()
            .Where(catalogue => names.Count == 0 ? !catalogue.IsPaused : names.Contains(catalogue.Name));
        return await station.Catalogues.RefreshAsync(wanted, cancel);
    }
}
