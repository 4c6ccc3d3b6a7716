using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate about</c>.</summary>
internal static class AboutCommand
{
    public static Command Create()
    {
        var apps = new Argument<string[]>("APP")
        {
            Description = "The app's id or name; a selector picks the release to show. Several are compared",
            Arity = ArgumentArity.OneOrMore, CustomParser = CommonOptions.TextsOf,
        };
        var releases = new Option<bool>("--releases") { Description = "Show every release, not only the newest of each line" };
        var command = new Command("about", "Everything that is known about an app, or several side by side") { apps, releases };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var result = await new About(call.Session).RunAsync(call.References(parsed.GetValue(apps)!), cancel);
            if (result.Apps.Count == 1) AboutView.Show(call.Output, result, parsed.GetValue(releases));
            else CompareView.Show(call.Output, result);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
