using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate about</c>.</summary>
internal static class AboutCommand
{
    public static Command Create()
    {
        var apps = new Argument<string[]>("APP") { Description = "The app's id or name; a selector picks the release to show. Several are compared", Arity = ArgumentArity.OneOrMore, CustomParser = CommonOptions.TextsOf };
        var releases = new Option<bool>("--releases") { Description = "Show every release, not only the newest of each line" };
        var command = new Command("about", "Everything that is known about an app, or several side by side") { apps, releases };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            var references = call.References(parsed.GetValue(apps)!);
            using var station = await call.OpenToReadFreshAsync(cancel);
            var (offers, machine) = (station.Offers(), station.State());
            var studies = new List<AppStudy>();
            foreach (var reference in references) studies.Add(AppStudy.Of(reference, offers, machine));
            if (studies.Count == 1) AboutView.Show(call.Output, studies[0], parsed.GetValue(releases), station);
            else CompareView.Show(call.Output, studies, station);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
