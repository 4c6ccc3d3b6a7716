using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Installing;

/// <summary>
/// Brings software that others have put on the machine under management: installs the app that it is, and says what remains of
/// the other.
/// </summary>
/// <param name="session">The session.</param>
public sealed class Adopt(Session session)
{
    /// <summary>Plans, shows the plan, asks, and carries it out if the user agrees.</summary>
    /// <param name="references">The apps, or the names of packages and menu entries.</param>
    /// <param name="options">What else was requested.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(IReadOnlyList<AppReference> references, RunOptions options, RunSignals signals)
    {
        using var station = await new RootOpener(session).ToChangeFreshAsync(options, signals.Soon);
        var observed = new ObservedApps(session, station.Layout, station.Other, station.Apps, station.Catalogues);
        var matches = observed.Match(observed.Find(signals.Soon), signals.Soon)
            .Where(match => match.App is not null)
            .ToList();
        var wanted = references.Select(reference => (Reference: reference, Found: matches.FindAll(match =>
            Means(reference, match))))
            .ToList();
        foreach (var (reference, found) in wanted)
        {
            if (found.Count == 0)
                throw NotSeen(reference, matches, IsOffered(reference, station.Catalogues.Offers())).ToException();
            if (found.Select(match => match.App).Distinct().Count() > 1)
                throw new Problem(ProblemCode.Ambiguous, $"\"{reference.Name}\" fits more than one app",
                    remedy: "name it by its id")
                { Details = [.. found.Select(match => Advice.Combine($"{match.App}: {match.Observed.Words}"))] }.ToException();
        }

        var named = wanted.ConvertAll(one => one.Reference with { Name = one.Found[0].App!.Text });
        var remains = wanted.SelectMany(one => one.Found).DistinctBy(match => match.Observed)
            .ToLookup(match => match.App!.Text, match => match.Observed, StringComparer.Ordinal);
        var plan = new Planner(station.Apps.Read(), station.Catalogues.Offers()).Install(named)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments);
        plan = plan with
        {
            Items = [.. plan.Items.Select(item => item with
            {
                Notes = [.. item.Notes, .. remains[item.Id].Select(PlanNote.Remains)],
            })],
        };
        return await new PlanExecution(session, station, options).ExecuteAsync(plan, signals, ObstacleRule.AllOrNothing) with
        {
            Remains = [.. remains.SelectMany(group => group)],
        };
    }

    private static bool Means(AppReference reference, ObservedMatch match) =>
        (match.App!.Text == reference.Name || match.Observed.Name == reference.Name
            || match.Observed.DesktopIds.Contains(reference.Name))
        && (reference.Catalogue is null || reference.Catalogue == match.Catalogue);

    private static bool IsOffered(AppReference reference, CachedOffers offers) =>
        reference.Id is { } id && offers.Find(id).Count > 0;

    private static Problem NotSeen(AppReference reference, List<ObservedMatch> matches, bool isOffered) => new(
        ProblemCode.NothingMatched, $"no software here is \"{reference.Name}\" of a catalogue",
        matches.Count == 0 ? "nothing that others put here is in a catalogue" : "these are:",
        isOffered
            ? Advice.Combine($"{NextCommand.Create("list", "--observed")} shows all; "
                + $"{NextCommand.Create("install", reference.ToString())} installs it anyway")
            : Advice.Combine($"{NextCommand.Create("list", "--observed")} shows all"))
    {
        Details = [.. matches.Select(match => Advice.Combine($"{match.App}: {match.Observed.Words}")).Take(8)],
    };
}
