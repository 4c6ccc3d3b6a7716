using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Engine.Running;

namespace AmberCrate.Cli.Commands;

/// <summary>The way of every command that changes something: show the plan, ask once, act, report.</summary>
internal static class PlanRun
{
    /// <summary>Carries a plan out as far as the person wants it.</summary>
    /// <param name="call">How the command was called.</param>
    /// <param name="station">The root.</param>
    /// <param name="plan">The plan.</param>
    /// <param name="view">Shows the plan.</param>
    /// <param name="cancel">Stops the run.</param>
    public static async Task<int> GoAsync(Invocation call, Workstation station, Plan plan, PlanView view, CancellationToken cancel)
    {
        if (call.IsDryRun)
        {
            if (call.Output.IsJson) view.WriteJson(call.Output, plan);
            else view.Show(call.Output, plan);
            return ExitCodes.AllAsAsked;
        }

        if (!call.Output.IsJson) view.Show(call.Output, plan);
        if (plan.Changes && !call.Output.IsJson) call.Output.Line();
        var runner = station.Runner();
        runner.RequireRights(plan);
        if ((plan.Changes || view.ChangesCatalogues) && !call.MayGoAhead(view.Question(plan), cancel))
        {
            call.Output.Line("Nothing has been changed.");
            return ExitCodes.Of(Core.Problems.ProblemCode.Interrupted);
        }

        foreach (var catalogue in view.AddedCatalogues) station.Records.AddCatalogue(catalogue);
        var progress = new ProgressView(call.Output);
        var report = await runner.RunAsync(plan, call.CommandLine, progress.Watch, cancel);
        progress.Clear();
        if (call.Output.IsJson) RunView.WriteJson(call.Output, report, view);
        else RunView.Show(call.Output, report);
        return ExitCodes.Of(report);
    }
}
