using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Engine.Operations;

/// <summary>Keeps the catalogues of a machine.</summary>
/// <param name="session">The session.</param>
public sealed class CatalogueUpkeep(Session session)
{
    /// <summary>Adds a catalogue behind the others, once it could be fetched.</summary>
    /// <param name="name">What to call it here.</param>
    /// <param name="location">Where it is, as the person wrote it.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">There is one of this name, or it cannot be fetched.</exception>
    public async Task<RefreshResult> AddAsync(CatalogueName name, string location, CancellationToken cancel)
    {
        var catalogue = new RegisteredCatalogue(name, CatalogueRefresh.Normalise(location));
        using var station = ToChange();
        if (station.Records.Catalogues().FirstOrDefault(known => known.Name == name) is { } taken)
        {
            throw new Problem(
                ProblemCode.Refused, $"there is a catalogue {taken.Name} already", $"it is at {taken.Location}",
                $"{NextCommand.Of("catalogue drop", taken.Name.Text)}, or choose another name").ToException();
        }

        var result = (await station.RefreshAsync([catalogue], cancel))[0];
        if (result.Problem is { } problem)
            throw (problem with { Why = Joined(problem.Why, "the catalogue has not been added") }).ToException();
        station.Records.AddCatalogue(catalogue);
        return result;
    }

    /// <summary>The catalogues, in order of preference.</summary>
    public CatalogueList List()
    {
        using var station = new Opening(session).ToRead();
        return ListOf(station);
    }

    /// <summary>Brings catalogue data up to date.</summary>
    /// <param name="names">The catalogues; none for all that are not paused.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">There is no catalogue of such a name.</exception>
    public async Task<IReadOnlyList<RefreshResult>> RefreshAsync(IReadOnlyList<CatalogueName> names, CancellationToken cancel)
    {
        using var station = ToChange();
        foreach (var name in names) RequireKnown(name, station);
        var wanted = station.Records.Catalogues()
            .Where(catalogue => names.Count == 0 ? !catalogue.IsPaused : names.Contains(catalogue.Name));
        return await station.RefreshAsync(wanted, cancel);
    }

    /// <summary>Says which catalogue an app is taken from first.</summary>
    /// <param name="order">Catalogues in their new order; the others follow as they were.</param>
    /// <exception cref="ProblemException">There is no catalogue of such a name.</exception>
    public CatalogueList Rank(IReadOnlyList<CatalogueName> order)
    {
        using var station = ToChange();
        foreach (var name in order) RequireKnown(name, station);
        station.Records.Rank(order);
        return ListOf(station);
    }

    /// <summary>Leaves a catalogue out, or asks it again.</summary>
    /// <param name="name">The catalogue.</param>
    /// <param name="isPaused">Whether it is left out from now on.</param>
    /// <exception cref="ProblemException">There is no catalogue of such a name.</exception>
    public CatalogueList Pause(CatalogueName name, bool isPaused)
    {
        using var station = ToChange();
        RequireKnown(name, station);
        station.Records.Pause(name, isPaused);
        return ListOf(station);
    }

    /// <summary>Forgets a catalogue; installed apps stay.</summary>
    /// <param name="name">The catalogue.</param>
    /// <exception cref="ProblemException">There is no catalogue of such a name.</exception>
    public DroppedCatalogue Drop(CatalogueName name)
    {
        using var station = ToChange();
        RequireKnown(name, station);

        // The data first, which can be fetched again: where that fails, the catalogue is still there to be dropped.
        station.Cache.Drop(name);
        station.Records.DropCatalogue(name);
        return new DroppedCatalogue(name, station.State().Apps.Count(app => app.Catalogue == name));
    }

    private Workstation ToChange()
    {
        var opening = new Opening(session);
        opening.RaiseIfNeeded([]);
        return opening.ToChange(planOnly: false, []);
    }

    private static CatalogueList ListOf(Workstation station) => new(
        [.. station.Records.Catalogues().Select(catalogue => new CatalogueEntry(catalogue, station.Cache.StateOf(catalogue)))],
        station.Now);

    private static void RequireKnown(CatalogueName name, Workstation station)
    {
        var known = station.Records.Catalogues();
        if (known.Any(catalogue => catalogue.Name == name)) return;
        var remedy = known.Count == 0
            ? "none has been added yet"
            : $"the catalogues are: {string.Join(", ", known.Select(catalogue => catalogue.Name))}";
        throw new Problem(ProblemCode.NothingMatched, $"there is no catalogue \"{name}\"", remedy: remedy).ToException();
    }

    private static string Joined(string why, string state) => why.Length == 0 ? state : $"{why}; {state}";
}
