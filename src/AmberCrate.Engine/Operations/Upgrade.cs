using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Operations;

/// <summary>Brings installed apps up to date, within what was asked for.</summary>
/// <param name="session">The session.</param>
public sealed class Upgrade(Session session)
{
    /// <summary>Does it, as far as the person wants it.</summary>
    /// <param name="names">The installed apps; none for all that are due.</param>
    /// <param name="options">What else was asked for.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(IReadOnlyList<string> names, RunOptions options, RunSignals signals)
    {
        using var station = await new Opening(session).ToChangeFreshAsync(options, signals.Soon);
        if (names.Count == 0) NoteLeft(station);
        var plan = new Planner(station.State(), station.Offers()).Upgrade(names)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments);
        return await new PlannedRun(session, station, options).GoAsync(plan, signals);
    }

    /// <summary>Names the apps of which nothing can be known, so that silence about them is not taken for "up to date".</summary>
    private void NoteLeft(Workstation station)
    {
        var offers = station.Offers();
        foreach (var entry in DueEntry.All(station.State(), offers).Where(entry => entry.IsUnknown))
            session.Note($"{entry.App.Id} cannot be upgraded: {CatalogueStatus.Words(entry.App.Catalogue, offers)}");
    }
}
