using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Engine.Installing;

namespace AmberCrate.Cli.Installing;

/// <summary><c>acrate prefetch</c>.</summary>
internal static class PrefetchCommand
{
    public static Command Create(CancellationToken now)
    {
        var apps = CommonOptions.Apps(
            "An app, as for install; default: what an upgrade would download", Completion.OfferedApp);
        var command = new HelpedCommand("prefetch", "Download now, install later", new CommandHelp(
            "Downloads and verifies what an install or upgrade will need, and keeps it in the cache. The machine "
                + "is not changed, and a later run needs no network for these files.",
            [1, 3, 4, 5, 6, 8, 130],
            [
                ("acrate prefetch", "what the next upgrade will need"),
                ("acrate prefetch scrim-paint@4.2.x --bandwidth 2MiB", "one app, at 2 MiB a second"),
            ]))
        {
            apps, CommonOptions.ListFile, CommonOptions.DryRun, CommonOptions.AcceptDigest, CommonOptions.Downloads,
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
