using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Cli.Publishing;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Cli.Cataloguing;

/// <summary><c>acrate catalogue</c> and its commands.</summary>
internal static class CatalogueCommand
{
    public static Command Create()
    {
        var command = new Command("catalogue", "Where apps come from: add, refresh, build")
        {
            CreateAdd(), CreateList(), CreateAbout(), CreateRefresh(), CreateRank(), CreatePause(),
            CreateResume(), CreateDrop(), CatalogueBuildCommand.Create(), CatalogueTrustCommands.CreateSign(),
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
                new AddCatalogueRequest(SharedArguments.ReadCatalogue(parsed.GetValue(name)!), parsed.GetValue(location)!)
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

    private static HelpedCommand CreateAbout()
    {
        var name = new DeclaredArgument<string>("NAME", Completion.Catalogue) { Description = "The catalogue" };
        var command = new HelpedCommand("about", "Show who has signed a catalogue, and until when", new CommandHelp(
            "Shows where a catalogue is, how old its data are, and what is believed of it: the keys of each role, versions, and "
                + "until when they are good.",
            [3],
            [
                ("acrate catalogue about guild", "the keys and ends of guild"),
                ("acrate catalogue about guild --json", "the same, for a program"),
            ]))
        { name };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            CatalogueView.ShowAbout(
                call.Output, new AboutCatalogue(call.Session).Run(SharedArguments.ReadCatalogue(parsed.GetValue(name)!)));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static HelpedCommand CreateRefresh()
    {
        var names = new DeclaredArgument<string[]>("NAME", Completion.Catalogue)
        {
            Description = "A catalogue; default: all", Arity = ArgumentArity.ZeroOrMore,
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
                await new RefreshCatalogues(call.Session)
                    .RunAsync([.. parsed.GetValue(names)!.Select(SharedArguments.ReadCatalogue)], cancel);
            CatalogueView.ShowRefreshed(call.Output, results);
            var problems = results.Select(result => result.Problem).OfType<Problem>().ToList();
            if (problems.Count == 0) return ExitCodes.AllAsAsked;
            return problems.Count == results.Count ? ExitCodes.ForProblem(problems[0].Code) : ExitCodes.SomeFailed;
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
            new RankCatalogues(session).Run([.. parsed.GetValue(names)!.Select(SharedArguments.ReadCatalogue).Distinct()]));
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
            new PauseCatalogue(session).Run(SharedArguments.ReadCatalogue(parsed.GetValue(name)!), pause));
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
            CatalogueView.ShowDropped(
                call.Output, new DropCatalogue(call.Session).Run(SharedArguments.ReadCatalogue(parsed.GetValue(name)!)));
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
}
