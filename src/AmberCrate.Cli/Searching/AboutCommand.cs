using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary><c>acrate about</c>.</summary>
internal static class AboutCommand
{
    public static Command Create()
    {
        var apps = new DeclaredArgument<string[]>("APP", Completion.OfferedApp)
        {
            Description = "An app: its id or name, with a version behind an @ if you like; several are compared",
            Arity = ArgumentArity.OneOrMore, CustomParser = CommonOptions.TextsOf,
        };
        var releases = new DeclaredOption<bool>(
            OptionGroup.Selection, "--releases")
        { Description = "Show every release, not only the newest of each line" };
        var language = CommonOptions.LanguageOf("Show it in this language, such as de, where it is there");
        var command = new HelpedCommand("about", "All about an app, or several side by side", new CommandHelp(
            "Shows what the catalogues say about an app: who makes it and whether that is confirmed, versions, "
                + "licence, the source and the digest of its file, and what installing it will do.",
            [3, 6],
            [
                ("acrate about scrim-paint", "one app"),
                ("acrate about scrim-paint backcloth-render", "two apps side by side"),
            ]))
        { apps, releases, language };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var result = await new About(call.Session).RunAsync(call.References(parsed.GetValue(apps)!), cancel,
                CommonOptions.ReadLanguage(parsed.GetValue(language), "about"));
            if (result.Apps.Count == 1) AboutView.Show(call.Output, result, parsed.GetValue(releases));
            else CompareView.Show(call.Output, result);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
