using AmberCrate.Core.Bundles;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Bundles;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Operations;

/// <summary>Makes a machine hold what a bundle lists.</summary>
/// <param name="session">The session.</param>
public sealed class Equip(Session session)
{
    /// <summary>Does it, as far as the person wants it.</summary>
    /// <param name="file">The bundle.</param>
    /// <param name="options">What else was asked for.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(string file, RunOptions options, RunSignals signals)
    {
        var bundle = BundleFile.Read(file);
        var opening = new Opening(session);
        using var station = await opening.ToChangeFreshAsync(options, signals.Soon);
        var added = NewCatalogues(bundle, Path.GetDirectoryName(session.Host.FullPath(file))!, station);
        var takeOver = new CatalogueTakeOver(station, options.TakesOver);
        foreach (var catalogue in added) takeOver.Require(catalogue);
        if (added.Count > 0 && !options.IsDryRun) opening.RaiseIfNeeded(Opening.WithoutTerminal);

        // What is fetched of them is of no effect until they are added, which the run does.
        var fetched = await station.RefreshAsync(added, signals.Soon);
        var offers = station.OffersWith(fetched.Where(result => result.Problem is null).Select(result => result.Catalogue.Name));
        bundle = bundle with
        {
            Apps = [.. bundle.Apps.Select(app => app.Pin is { } pin ? app with { Pin = pin with { Since = station.Now } } : app)],
        };
        var plan = new Planner(station.State(), offers) { CanRun = HostPlatform.CanRun }.Equip(bundle)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments) with
        {
            Catalogues =
            [
                .. fetched.Select(
                    result => new PlannedCatalogue(result.Catalogue.Name, result.Catalogue.Location, result.Problem)
                    {
                        TakesOver = takeOver.AppsOf(result.Catalogue),
                    }),
            ],
        };
        RequireAnyReached(plan);
        return await new PlannedRun(session, station, options).GoAsync(plan, signals);
    }

    private static void RequireAnyReached(Plan plan)
    {
        if (plan.Catalogues.FirstOrDefault(catalogue => catalogue.Problem is not null)?.Problem is not { } unreachable) return;
        if (!plan.Items.All(item => item.Action == PlanAction.Cannot)) return;
        throw (unreachable with { Details = [.. plan.Items.Select(item => Advice.Of($"{item.Id}: {item.Note}"))] }).ToException();
    }

    /// <summary>The catalogues of a bundle that are new here.</summary>
    /// <exception cref="ProblemException">A catalogue of the same name is at another location here.</exception>
    private static List<RegisteredCatalogue> NewCatalogues(Bundle bundle, string folder, Workstation station)
    {
        var known = station.Records.Catalogues().ToDictionary(catalogue => catalogue.Name);
        var added = new List<RegisteredCatalogue>();
        foreach (var wanted in bundle.Catalogues)
        {
            var isAddress = wanted.Location.Contains("://", StringComparison.Ordinal);
            var location = isAddress ? CatalogueRefresh.Normalise(wanted.Location) : Path.GetFullPath(wanted.Location, folder);
            if (!known.TryGetValue(wanted.Name, out var here)) added.Add(new RegisteredCatalogue(wanted.Name, location));
            else if (here.Location != location) throw IsElsewhere(here, location).ToException();
        }

        return added;
    }

    private static Problem IsElsewhere(RegisteredCatalogue here, string location) => new(
        ProblemCode.Refused,
        $"the catalogue {here.Name} has another location here than in the bundle",
        $"here it is at {here.Location}, in the bundle at {location}",
        $"change the location in the bundle, or remove the catalogue here: {NextCommand.Of("catalogue drop", here.Name.Text)}");
}
