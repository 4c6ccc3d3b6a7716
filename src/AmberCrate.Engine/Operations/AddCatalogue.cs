using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Engine.Operations;

/// <summary>Adds a catalogue behind the others, once its data have been fetched.</summary>
/// <param name="session">The session.</param>
public sealed class AddCatalogue(Session session)
{
    /// <summary>Does it.</summary>
    /// <param name="name">What to call it here.</param>
    /// <param name="location">Where it is, as the person wrote it.</param>
    /// <param name="takesOver">The names of catalogues that may take over the apps of another one of their name.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">There is one of this name, it cannot be fetched, or it would take over
    /// apps.</exception>
    public async Task<RefreshResult> RunAsync(
        CatalogueName name, string location, IReadOnlyList<string> takesOver, CancellationToken cancel)
    {
        var catalogue = new RegisteredCatalogue(name, CatalogueRefresh.Normalise(location));
        using var station = new Opening(session).ToChangeAtOnce();
        if (station.Records.Catalogues().FirstOrDefault(known => known.Name == name) is { } taken)
        {
            throw new Problem(
                ProblemCode.Refused, $"there is a catalogue {taken.Name} already", $"it is at {taken.Location}",
                $"{NextCommand.Of("catalogue drop", taken.Name.Text)}, or choose another name").ToException();
        }

        new CatalogueTakeOver(station, takesOver).Require(catalogue);
        var result = (await station.RefreshAsync([catalogue], cancel))[0];
        if (result.Problem is { } problem)
            throw (problem with { Why = Joined(problem.Why, "the catalogue has not been added") }).ToException();
        station.Records.AddCatalogue(catalogue);
        return result;
    }

    private static string Joined(string why, string state) => why.Length == 0 ? state : $"{why}; {state}";
}
