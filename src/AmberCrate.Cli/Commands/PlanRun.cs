using AmberCrate.Cli.Views;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Operations;
using AmberCrate.Engine.Rights;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Commands;

/// <summary>The way of every command that changes something: show the plan, ask once, act, report.</summary>
internal static class PlanRun
{
    /// <summary>Carries a plan out as far as the person wants it.</summary>
    /// <param name="call">How the command was called.</param>
    /// <param name="station">The root.</param>
    /// <param name="plan">The plan.</param>
    /// <param name="view">Shows the plan.</param>
    /// <param name="signals">Stops the run.</param>
    public static async Task<int> GoAsync(Invocation call, Workstation station, Plan plan, PlanView view, RunSignals signals)
    {
        plan = WithoutSkipped(call, station, plan);
        List<string> left = [];
        if (call.IsPicking)
        {
            if (new PickView(call.Output, plan).Ask() is not { } picked) return Left(call);
            left = [.. plan.Items.Except(picked.Items).Select(item => item.Id)];
            plan = picked;
        }

        var digest = new Lazy<Sha256Digest>(() => PlanDigest.Of(plan, view.AddedCatalogues.Select(catalogue => $"{catalogue.Name} {catalogue.Location}")));
        var shown = call.AsShown();
        if (shown is not null && shown != digest.Value)
            throw new Problem(ProblemCode.Refused, "what would be done is no longer what was shown", $"the plan that was shown is sha256:{shown}, that of now sha256:{digest.Value}; nothing has been changed", "look at the plan anew, without --as-shown").ToException();
        var runner = station.Runner();
        var outlook = PlanOutlook.Of(plan, station.Layout, station.Downloads) with
        {
            Afterwards = runner.ProgramsAfter(plan),
            ConfinesInstallers = plan.Items.Any(item => item.RunsInstaller) && runner.ConfinesInstallers,
            Rights = call.RightsFor(plan),
            Twice = TwiceThere(call, station, plan),
        };
        if (call.IsDryRun)
        {
            if (call.Output.IsJson) view.WriteJson(call.Output, plan, digest.Value, outlook, station);
            else view.ShowOnly(call.Output, plan, outlook, station);
            return ExitCodes.AllAsAsked;
        }

        if (outlook.Rights.State == RightsState.Missing) throw FolderRights.Missing(station.Layout)!.ToException();
        if (shown is null)
        {
            if (call.Output.IsJson) view.WriteEvent(call.Output, plan, digest.Value, outlook, station);
            else view.Show(call.Output, plan, outlook, station);
            if (plan.Changes && !call.Output.IsJson) call.Output.Line();
        }

        SpaceNeed.Require(outlook.Space);
        if ((plan.Changes || view.ChangesCatalogues) && shown is null && !call.MayGoAhead(view.Question(plan, outlook.Rights), signals.Soon)) return Left(call);
        if (outlook.Rights.State == RightsState.Raised) return call.Raising!.Run(call.Output, ["--yes", "--as-shown", $"sha256:{digest.Value}", .. left.SelectMany(id => new[] { "--skip", id })]);
        foreach (var catalogue in view.AddedCatalogues) station.Records.AddCatalogue(catalogue);
        using var stopping = signals.Soon.Register(() => call.Output.Notice("stopping once the app in hand is finished; the same again puts it back at once"));
        return await WatchAsync(call, station, watch => runner.RunAsync(plan, call.CommandLine, watch, signals, call.IsEvenOpen));
    }

    /// <summary>The plan without what the person leaves out, and what cannot be there without it.</summary>
    private static Plan WithoutSkipped(Invocation call, Workstation station, Plan plan)
    {
        if (call.Skipped.Count == 0) return plan;
        var installed = station.Records.Ids();
        if (call.Skipped.FirstOrDefault(id => !installed.Contains(id) && plan.Items.All(item => item.Id != id)) is { } unknown)
            throw new Problem(ProblemCode.NothingMatched, $"--skip names {unknown}, which the plan does not have", "nothing has been changed", "name an app of the plan by its id; --dry-run shows them").ToException();
        return PlanPicking.Without(plan, PlanPicking.Following(plan, call.Skipped));
    }

    /// <summary>Apps of the other scope that a plan puts on in this one.</summary>
    private static List<InstalledApp> TwiceThere(Invocation call, Workstation station, Plan plan)
    {
        call.NoteOther(station);
        return [.. plan.Items.Where(item => item.Fetches).Select(item => station.Other.Find(item.Id)).OfType<InstalledApp>()];
    }

    /// <summary>Fetches what a plan needs, and changes nothing else.</summary>
    public static async Task<int> PrefetchAsync(Invocation call, Workstation station, Plan plan, CancellationToken cancel)
    {
        var view = new PlanView(fetchesOnly: true);
        plan = new Plan([.. plan.Items.Where(item => item.Fetches || item.Action == PlanAction.Cannot)]);
        var outlook = PlanOutlook.Of(plan, station.Layout, station.Downloads, fetchesOnly: true);
        SpaceNeed.Require(outlook.Space);
        if (call.IsDryRun && call.Output.IsJson) view.WriteJson(call.Output, plan, PlanDigest.Of(plan, []), outlook, station);
        else if (call.IsDryRun) view.ShowOnly(call.Output, plan, outlook, station);
        else if (call.Output.IsJson) view.WriteEvent(call.Output, plan, PlanDigest.Of(plan, []), outlook, station);
        else view.Show(call.Output, plan, outlook, station);
        if (call.IsDryRun) return ExitCodes.AllAsAsked;
        if (plan.Changes && !call.Output.IsJson) call.Output.Line();
        return await WatchAsync(call, station, watch => station.Runner().PrefetchAsync(plan, watch, cancel));
    }

    private static int Left(Invocation call)
    {
        call.Output.Line("Nothing has been changed.");
        return ExitCodes.Of(ProblemCode.Interrupted);
    }

    private static async Task<int> WatchAsync(Invocation call, Workstation station, Func<Action<RunEvent>, Task<RunReport>> run)
    {
        RunReport report;
        using (var progress = new ProgressView(call.Output, Invocation.Clock)) report = await run(progress.Watch);
        report = report with { Items = [.. report.Items.Select(item => item.Problem is { } problem ? item with { Problem = CommandText.In(station.Layout.Scope, problem) } : item)] };
        if (call.Output.IsJson) RunView.WriteEvent(call.Output, report);
        else RunView.Show(call.Output, report, station.Layout, Environment.GetEnvironmentVariable("PATH") ?? "");
        return ExitCodes.Of(report);
    }
}
