using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Running;

namespace AmberCrate.Cli.Commands;

/// <summary>The way of every command that changes something: show the plan, ask once, act, report.</summary>
internal static class PlanRun
{
    /// <summary>Is cancelled when the person stops a run for the second time.</summary>
    public static CancellationToken Now { get; set; }

    /// <summary>Carries a plan out as far as the person wants it.</summary>
    /// <param name="call">How the command was called.</param>
    /// <param name="station">The root.</param>
    /// <param name="plan">The plan.</param>
    /// <param name="view">Shows the plan.</param>
    /// <param name="cancel">Stops the run.</param>
    public static async Task<int> GoAsync(Invocation call, Workstation station, Plan plan, PlanView view, CancellationToken cancel)
    {
        if (call.IsPicking)
        {
            if (new PickView(call.Output, plan).Ask() is not { } picked) return Left(call);
            plan = picked;
        }

        var runner = station.Runner();
        var outlook = PlanOutlook.Of(plan, station.Layout, station.Downloads) with { Afterwards = runner.ProgramsAfter(plan), ConfinesInstallers = plan.Items.Any(item => item.RunsInstaller) && runner.ConfinesInstallers };
        if (call.IsDryRun)
        {
            if (call.Output.IsJson) view.WriteJson(call.Output, plan, outlook);
            else view.Show(call.Output, plan, outlook);
            return ExitCodes.AllAsAsked;
        }

        if (call.Output.IsJson) view.WriteEvent(call.Output, plan, outlook);
        else view.Show(call.Output, plan, outlook);
        if (plan.Changes && !call.Output.IsJson) call.Output.Line();
        runner.RequireRights(plan);
        SpaceNeed.Require(outlook.Space);
        if ((plan.Changes || view.ChangesCatalogues) && !call.MayGoAhead(view.Question(plan), cancel)) return Left(call);
        foreach (var catalogue in view.AddedCatalogues) station.Records.AddCatalogue(catalogue);
        using var stopping = cancel.Register(() => call.Output.Notice("stopping once the app in hand is finished; the same again puts it back at once"));
        return await WatchAsync(call, station, watch => runner.RunAsync(plan, call.CommandLine, watch, new RunSignals(cancel, Now), call.IsEvenOpen));
    }

    /// <summary>Fetches what a plan needs, and changes nothing else.</summary>
    public static async Task<int> PrefetchAsync(Invocation call, Workstation station, Plan plan, CancellationToken cancel)
    {
        var view = new PlanView(fetchesOnly: true);
        plan = new Plan([.. plan.Items.Where(item => item.Fetches || item.Action == PlanAction.Cannot)]);
        var outlook = PlanOutlook.Of(plan, station.Layout, station.Downloads, fetchesOnly: true);
        SpaceNeed.Require(outlook.Space);
        if (call.Output.IsJson && call.IsDryRun) view.WriteJson(call.Output, plan, outlook);
        else if (call.Output.IsJson) view.WriteEvent(call.Output, plan, outlook);
        else view.Show(call.Output, plan, outlook);
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
        if (call.Output.IsJson) RunView.WriteEvent(call.Output, report);
        else RunView.Show(call.Output, report, station.Layout, Environment.GetEnvironmentVariable("PATH") ?? "");
        return ExitCodes.Of(report);
    }
}
