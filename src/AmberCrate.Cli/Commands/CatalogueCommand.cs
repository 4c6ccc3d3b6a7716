using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Publishing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate catalogue</c> and its commands.</summary>
internal static class CatalogueCommand
{
    public static Command Create()
    {
        var command = new Command("catalogue", "Where apps come from: add, refresh, build")
        {
            CreateAdd(), CreateList(), CatalogueTrustCommands.CreateAbout(), CreateRefresh(), CreateRank(), CreatePause(),
            CreateResume(), CreateDrop(), CreateBuild(), CatalogueTrustCommands.CreateSign(),
            CatalogueTrustCommands.CreateRenew(), CatalogueKeyCommands.Create(), CatalogueTrustCommands.CreateDelegate(),
            CatalogueTrustCommands.CreateMirror(),
        };
        command.Aliases.Add("catalog");
        return command;
    }

    private static HelpedCommand CreateAdd()
    {
        var name = new DeclaredArgument<string>("NAME", Completion.None) { Description = "What to call it here" };
        var location = new DeclaredArgument<string>("LOCATION", Completion.Folder)
        {
            Description = "A folder of cards, a published catalogue, or its http address",
        };
        var trust = new DeclaredOption<string>(OptionGroup.Files, "--trust")
        {
            Description = "Trust this root: its file, or its SHA-256 as the maintainer says it", HelpName = "ROOT",
            Completion = Completion.File,
        };
        var mirror = new DeclaredOption<string[]>(OptionGroup.Network, "--mirror")
        {
            Description = "Where the same files lie, too, asked first for what is large; may be given several times",
            HelpName = "LOCATION",
        };
        var command = new HelpedCommand("add", "Add a catalogue", new CommandHelp(
            "Adds a catalogue and downloads its data. From now on apps are taken from it, too, after those of the "
                + "catalogues before it. Where it is signed, you are shown its root and asked whether it is the right one.",
            [3, 4, 5, 6, 7, 8],
            [
                ("acrate catalogue add house house", "the playhouse's own cards, in a folder"),
                ("acrate catalogue add guild https://catalogue.stagecraft-guild.example/", "the guild's, over the network"),
            ]))
        { name, location, trust, mirror, CommonOptions.Unsigned, CommonOptions.AcceptStale, CommonOptions.TakeOver };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            CatalogueView.ShowAdded(call.Output, await new AddCatalogue(call.Session).RunAsync(
                new AddCatalogueRequest(ReadName(parsed.GetValue(name)!), parsed.GetValue(location)!)
                {
                    TakesOver = parsed.GetValue(CommonOptions.TakeOver) ?? [], Trust = parsed.GetValue(trust),
                    Mirrors = parsed.GetValue(mirror) ?? [],
                    AllowsUnsigned = parsed.GetValue(CommonOptions.Unsigned),
                }, cancel));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateList()
    {
        var command = new HelpedCommand("list", "The catalogues, in order of preference", new CommandHelp(
            "Lists the catalogues in order of preference, with the number of their apps and the age of their data.",
            [7, 9],
            [
                ("acrate catalogue list", "yours"),
                ("acrate catalogue list --all-users", "those for all users"),
            ]));
        SetListing(command, (session, _) => new ListCatalogues(session).Run());
        return command;
    }

    private static HelpedCommand CreateRefresh()
    {
        var names = new DeclaredArgument<string[]>("NAME", Completion.Catalogue)
        {
            Description = "A catalogue; all where none is named", Arity = ArgumentArity.ZeroOrMore,
        };
        var command = new HelpedCommand("refresh", "Update catalogue data", new CommandHelp(
            "Downloads what has changed in the catalogues since the last time. A catalogue that cannot be reached, "
                + "or whose data do not verify, keeps the data it has.",
            [1, 3, 5, 6, 7, 8],
            [
                ("acrate catalogue refresh", "all catalogues"),
                ("acrate catalogue refresh guild", "one of them"),
            ]))
        { names, CommonOptions.AcceptStale };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var results =
                await new RefreshCatalogues(call.Session).RunAsync([.. parsed.GetValue(names)!.Select(ReadName)], cancel);
            CatalogueView.ShowRefreshed(call.Output, results);
            var problems = results.Select(result => result.Problem).OfType<Problem>().ToList();
            if (problems.Count == 0) return ExitCodes.AllAsAsked;
            return problems.Count == results.Count ? ExitCodes.Of(problems[0].Code) : ExitCodes.SomeFailed;
        });
        return command;
    }

    private static HelpedCommand CreateRank()
    {
        var names = new DeclaredArgument<string[]>("NAME", Completion.Catalogue)
        {
            Description = "Catalogues, the preferred one first; the others come after them as before",
            Arity = ArgumentArity.OneOrMore,
        };
        var command = new HelpedCommand("rank", "Put catalogues in order of preference", new CommandHelp(
            "An app that several catalogues offer is taken from the first of them. Installed apps stay with the "
                + "catalogue they came from.",
            [3, 7, 8],
            [
                ("acrate catalogue rank house", "the playhouse's own catalogue comes first"),
                ("acrate catalogue rank house guild", "the same, and then the guild's"),
            ]))
        { names };
        SetListing(command, (session, parsed) =>
            new RankCatalogues(session).Run([.. parsed.GetValue(names)!.Select(ReadName).Distinct()]));
        return command;
    }

    private static HelpedCommand CreatePause() => CreatePausing("pause", "Leave a catalogue out for a while", pause: true);

    private static HelpedCommand CreateResume() => CreatePausing("resume", "Use a paused catalogue again", pause: false);

    private static HelpedCommand CreatePausing(string verb, string description, bool pause)
    {
        var name = new DeclaredArgument<string>("NAME", Completion.Catalogue) { Description = "The catalogue" };
        var command = new HelpedCommand(verb, description, new CommandHelp(
            "A paused catalogue is not asked and offers nothing. Installed apps stay.",
            [3, 7, 8],
            [
                ("acrate catalogue pause guild", "leaves the guild's catalogue out"),
                ("acrate catalogue resume guild", "uses it again"),
            ]))
        { name };
        SetListing(command, (session, parsed) =>
            new PauseCatalogue(session).Run(ReadName(parsed.GetValue(name)!), pause));
        return command;
    }

    private static HelpedCommand CreateDrop()
    {
        var name = new DeclaredArgument<string>("NAME", Completion.Catalogue) { Description = "The catalogue to remove" };
        var command = new HelpedCommand("drop", "Remove a catalogue; its apps stay installed", new CommandHelp(
            "Removes a catalogue and its data. Apps that came from it stay, and are not upgraded any more.",
            [3, 7, 8],
            [
                ("acrate catalogue drop guild", "removes the guild's catalogue"),
                ("acrate catalogue drop guild --all-users", "the one for all users"),
            ]))
        { name };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            CatalogueView.ShowDropped(call.Output, new DropCatalogue(call.Session).Run(ReadName(parsed.GetValue(name)!)));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateBuild()
    {
        var cards = new DeclaredArgument<string>("CARDS-DIR", Completion.Folder) { Description = "The folder of app cards" };
        var target = new DeclaredArgument<string>("OUT-DIR", Completion.Folder)
        {
            Description = "The folder to publish to, for any file server",
        };
        var artifacts = new DeclaredOption<bool>(OptionGroup.Files, "--with-artifacts")
        {
            Description = "Verify and copy the artifacts that lie beside the cards",
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
            CatalogueView.ShowBuilt(call.Output, result);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    /// <summary>Has a command show the catalogues as they are behind it.</summary>
    private static void SetListing(Command command, Func<Session, ParseResult, CatalogueList> run) =>
        command.SetAction(parsed =>
    {
        using var call = new Call(parsed);
        CatalogueView.ShowList(call.Output, run(call.Session, parsed));
        return ExitCodes.AllAsAsked;
    });

    /// <summary>Reads the name of a catalogue.</summary>
    /// <exception cref="ProblemException">It is none.</exception>
    public static CatalogueName ReadName(string text) =>
        CatalogueName.TryParse(text, out var name) ? name
        : throw new Problem(
            ProblemCode.BadCommandLine,
            $"\"{text}\" cannot be the name of a catalogue",
            $"expected {CatalogueName.Expected}").ToException();
}
