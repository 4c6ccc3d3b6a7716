using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Engine.Publishing;

namespace AmberCrate.Cli.Publishing;

/// <summary><c>acrate catalogue build</c>.</summary>
internal static class CatalogueBuildCommand
{
    public static Command Create()
    {
        var cards = new DeclaredArgument<string>("CARDS-DIR", Completion.Folder) { Description = "The folder of app cards" };
        var target = new DeclaredArgument<string>("OUT-DIR", Completion.Folder)
        {
            Description = "The folder to publish to, for any file server",
        };
        var artifacts = new DeclaredOption<bool>(OptionGroup.Files, "--with-artifacts")
        {
            Description = "Verify and copy the artifacts beside the cards",
        };
        var full = new DeclaredOption<bool>(OptionGroup.Files, "--full")
        {
            Description = "Write every app again, instead of only what has changed",
        };
        var popularity = new DeclaredOption<string>(OptionGroup.Files, "--popularity")
        {
            Completion = Completion.Folder, HelpName = "FOLDER",
            Description = "Count on how many machines each app is, from a folder of their exports",
        };
        var prune = new DeclaredOption<bool>(OptionGroup.Files, "--prune")
        {
            Description = "Remove artifacts that no card has named for two publications",
        };
        var pages = new DeclaredOption<bool>(OptionGroup.Files, "--pages")
        {
            Description = "Make pages for a browser too: look for apps, tick them, take them away",
        };
        var name = new DeclaredOption<string>(OptionGroup.Files, "--as")
        {
            Description = "Publish as NAME, to whom the catalogue leaves apps", HelpName = "NAME",
        };
        var command = new HelpedCommand("build", "Check app cards and publish them", new CommandHelp(
            "Checks a folder of app cards and writes the catalogue that workstations read. All faults are named "
                + "at once, with file, line and key; nothing is published while there is one.",
            [3, 5],
            [
                ("acrate catalogue build guild site --with-artifacts", "publishes cards and artifacts to the folder site"),
                ("acrate catalogue build guild site --keys keys --pages", "signs it, and makes pages for a browser"),
            ]))
        { cards, target, artifacts, full, popularity, prune, pages, name };
        var keys = new KeyOptions(command);
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var result = await call.Session.ReportAsync(progress => new BuildCatalogue(call.Host).RunAsync(
                new BuildRequest(
                    parsed.GetValue(cards)!, parsed.GetValue(target)!, parsed.GetValue(artifacts), parsed.GetValue(full),
                    parsed.GetValue(popularity), parsed.GetValue(prune))
                {
                    Pages = new SitePages(), WithPages = parsed.GetValue(pages), Keys = keys.Ring(parsed, call),
                    As = parsed.GetValue(name), Progress = progress,
                },
                cancel));
            PublishingView.ShowBuilt(call.Output, result);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
