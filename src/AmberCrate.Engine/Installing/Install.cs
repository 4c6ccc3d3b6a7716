using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Installing;

/// <summary>Installs apps.</summary>
/// <param name="session">The session.</param>
public sealed class Install(Session session)
{
    /// <summary>Plans, shows the plan, asks, and carries it out if the user agrees.</summary>
    /// <param name="references">The apps, and what of them.</param>
    /// <param name="request">How.</param>
    /// <param name="options">What else was requested.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(
        IReadOnlyList<AppReference> references, InstallRequest request, RunOptions options, RunSignals signals)
    {
        if (request.Platform is { } platform && !HostPlatform.CanRun(platform))
            throw new Problem(
                ProblemCode.Refused, $"this machine cannot run programs for {platform}", $"it is {HostPlatform.Current}",
                "leave --platform out").ToException();
        if (request.IsAttended && !session.Confirm.CanAsk)
            throw new Problem(
                ProblemCode.BadCommandLine, "--attended needs a terminal", "there is no user to answer the installer",
                "leave it out, and the installer runs without questions").ToException();
        using var station = await new RootOpener(session).ToChangeFreshAsync(options, signals.Soon);
        var (machine, offers) = (station.Apps.Read(), station.Catalogues.Offers());
        (references, options) = WithoutSkipped(references, options);
        RequireKnown(references, offers, machine);
        HashSet<AppId> named = [];
        if (request.Platform is not null || request.IsAttended)
            named = [.. references.Select(reference => NameResolver.Offered(reference, offers)[0].Card.Id)];
        if (request.Platform is { } chosen) machine = machine.With(named.ToDictionary(id => id, _ => chosen));
        var plan = new Planner(machine, offers) { PutsOnAgain = request.IsAgain }.Install(references)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments);
        plan = plan with
        {
            Items = [.. plan.Items.Select(item => !item.Fetches || !named.Contains(item.App!) ? item : item with
            {
                Platform = request.Platform ?? item.Platform, IsAttended = request.IsAttended && item.RunsInstaller,
            })],
        };
        if (request.IsAttended) RequireAttended(plan);
        return await new PlanExecution(session, station, options).ExecuteAsync(plan, signals, ObstacleRule.AllOrNothing);
    }

    /// <summary>The references without those that --skip names, which need not be known.</summary>
    private static (IReadOnlyList<AppReference> References, RunOptions Options) WithoutSkipped(
        IReadOnlyList<AppReference> references, RunOptions options)
    {
        var left = references.Where(reference => !options.Skipped.Contains(reference.Name)).ToList();
        return (left, options with { LeftOut = [.. references.Select(reference => reference.Name).Intersect(options.Skipped)] });
    }

    /// <summary>Says of one unknown name among several how to go on without it.</summary>
    /// <exception cref="ProblemException">A name is not known.</exception>
    private static void RequireKnown(IReadOnlyList<AppReference> references, IOffers offers, MachineState machine)
    {
        if (references.Count < 2
            || references.Where(one => !NameResolver.Knows(one, offers, machine)).ToList() is not [var unknown]) return;
        try
        {
            NameResolver.Offered(unknown, offers);
        }
        catch (ProblemException fault)
        {
            throw (fault.Problem with
            {
                Why = fault.Problem.Why.Length > 0
                    ? $"{fault.Problem.Why}; the others were not installed either" : "the others were not installed either",
                Remedy = Advice.Combine($"{fault.Problem.Remedy} (to install the others: --skip {unknown.Name})"),
            }).ToException();
        }
    }

    private static void RequireAttended(Plan plan)
    {
        if (plan.Items.FirstOrDefault(item =>
            item.IsAttended && item.Delivery!.Files[0].Installer!.AttendedArguments is null) is { } silent)
            throw new Problem(
                ProblemCode.Refused, $"the installer of {silent.Id} cannot be answered by a user",
                "its card has no attended_arguments", "leave --attended out").ToException();
        if (plan.ChangesApps && !plan.Items.Any(item => item.IsAttended))
            throw new Problem(
                ProblemCode.Refused, "none of these apps has an installer that a user could answer",
                remedy: "leave --attended out").ToException();
    }
}
