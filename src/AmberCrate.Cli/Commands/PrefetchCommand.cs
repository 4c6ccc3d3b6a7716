using System.CommandLine;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate prefetch</c>.</summary>
internal static class PrefetchCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps("What to fetch: [catalogue:]app[@selector]; what an upgrade would fetch unless named");
        var command = new Command("prefetch", "Fetch into the cache what an install or upgrade will need")
        {
            apps, CommonOptions.ListFile, CommonOptions.DryRun, CommonOptions.Expect, CommonOptions.Downloads,
            CommonOptions.Bandwidth,
        };
        command.SetRun((call, parsed, signals) =>
        {
            var named = parsed.GetValue(apps)!;
            return new Prefetch(call.Session).RunAsync(
                call.NamesApps(named) ? call.References(named) : null, call.RunOptions(), signals.Soon);
        }, now);
        return command;
    }
}
