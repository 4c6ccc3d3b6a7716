using System.CommandLine;
using AmberCrate.Core.Planning;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate prefetch</c>.</summary>
internal static class PrefetchCommand
{
    public static Command Create()
    {
        var apps = new Argument<string[]>("APP") { Description = "What to fetch: [catalogue:]app[@selector]; what an upgrade would fetch unless named", Arity = ArgumentArity.ZeroOrMore };
        var command = new Command("prefetch", "Fetch into the cache what an install or upgrade will need")
        {
            apps, CommonOptions.ListFile, CommonOptions.DryRun, CommonOptions.Expect, CommonOptions.Transfers, CommonOptions.Bandwidth,
        };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            var named = parsed.GetValue(apps)!.Length > 0 || parsed.GetValue(CommonOptions.ListFile) is not null;
            if (call.RunRaised() is { } ended) return ended;
            using var station = await call.OpenToReadFreshAsync(cancel);
            var planner = new Planner(station.State(), station.Offers());
            var plan = (named ? planner.Install(call.References(parsed.GetValue(apps)!)) : planner.Upgrade([])).Expecting(call.StatedDigests());
            return await PlanRun.PrefetchAsync(call, station, plan, cancel);
        });
        return command;
    }
}
