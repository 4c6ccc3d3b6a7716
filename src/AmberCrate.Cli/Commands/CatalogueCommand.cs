using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate catalogue</c> and its commands.</summary>
internal static class CatalogueCommand
{
    public static Command Create()
    {
        var command = new Command("catalogue", "Where apps come from")
        {
            CreateAdd(), CreateList(), CreateRefresh(), CreateRank(), CreatePause(), CreateResume(), CreateDrop(), CreateBuild(),
        };
        command.Aliases.Add("catalog");
        return command;
    }

    private static Command CreateAdd()
    {
        var name = new Argument<string>("NAME") { Description = "What to call it here" };
        var location =
            new Argument<string>("LOCATION") { Description = "A folder of cards, a published tree, or its http address" };
        var command = new Command("add", "Take apps from one more catalogue") { name, location };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            CatalogueView.ShowAdded(call.Output, await new CatalogueUpkeep(call.Session).AddAsync(
                ReadName(parsed.GetValue(name)!), parsed.GetValue(location)!, cancel));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static Command CreateList()
    {
        var command = new Command("list", "The catalogues, in order of preference");
        SetListing(command, (upkeep, _) => upkeep.List());
        return command;
    }

    private static Command CreateRefresh()
    {
        var names = new Argument<string[]>("NAME")
        {
            Description = "The catalogues to bring up to date; all unless named", Arity = ArgumentArity.ZeroOrMore,
        };
        var command = new Command("refresh", "Bring catalogue data up to date") { names };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var results =
                await new CatalogueUpkeep(call.Session).RefreshAsync([.. parsed.GetValue(names)!.Select(ReadName)], cancel);
            CatalogueView.ShowRefreshed(call.Output, results);
            var problems = results.Select(result => result.Problem).OfType<Problem>().ToList();
            if (problems.Count == 0) return ExitCodes.AllAsAsked;
            return problems.Count == results.Count ? ExitCodes.Of(problems[0].Code) : ExitCodes.SomeFailed;
        });
        return command;
    }

    private static Command CreateRank()
    {
        var names = new Argument<string[]>("NAME")
        {
            Description = "Catalogues in the order in which they are preferred; the others follow as they were",
            Arity = ArgumentArity.OneOrMore,
        };
        var command = new Command("rank", "Say which catalogue an app is taken from first") { names };
        SetListing(command, (upkeep, parsed) => upkeep.Rank([.. parsed.GetValue(names)!.Select(ReadName).Distinct()]));
        return command;
    }

    private static Command CreatePause() => CreatePausing("pause", "Leave a catalogue out until it is resumed", pause: true);

    private static Command CreateResume() => CreatePausing("resume", "Ask a paused catalogue again", pause: false);

    private static Command CreatePausing(string verb, string description, bool pause)
    {
        var name = new Argument<string>("NAME") { Description = "The catalogue" };
        var command = new Command(verb, description) { name };
        SetListing(command, (upkeep, parsed) => upkeep.Pause(ReadName(parsed.GetValue(name)!), pause));
        return command;
    }

    private static Command CreateDrop()
    {
        var name = new Argument<string>("NAME") { Description = "The catalogue to forget" };
        var command = new Command("drop", "Forget a catalogue; installed apps stay") { name };
        command.SetAction(parsed =>
        {
            using var call = new Call(parsed);
            CatalogueView.ShowDropped(call.Output, new CatalogueUpkeep(call.Session).Drop(ReadName(parsed.GetValue(name)!)));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static Command CreateBuild()
    {
        var cards = new Argument<string>("CARDS-DIR") { Description = "The folder of app cards" };
        var target = new Argument<string>("OUT-DIR") { Description = "The folder to publish to, for any file server" };
        var artifacts =
            new Option<bool>("--with-artifacts") { Description = "Verify and copy the artifacts that lie beside the cards" };
        var afresh =
            new Option<bool>("--afresh") { Description = "Write every app anew instead of laying changes over what is there" };
        var command = new Command("build", "Check a folder of cards and publish it") { cards, target, artifacts, afresh };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var result = await new BuildCatalogue(call.Host).RunAsync(
                parsed.GetValue(cards)!, parsed.GetValue(target)!, parsed.GetValue(artifacts), parsed.GetValue(afresh), cancel);
            CatalogueView.ShowBuilt(call.Output, result);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    /// <summary>Has a command show the catalogues as they are behind it.</summary>
    private static void SetListing(Command command, Func<CatalogueUpkeep, ParseResult, CatalogueList> run) =>
        command.SetAction(parsed =>
    {
        using var call = new Call(parsed);
        CatalogueView.ShowList(call.Output, run(new CatalogueUpkeep(call.Session), parsed));
        return ExitCodes.AllAsAsked;
    });

    private static CatalogueName ReadName(string text) =>
        CatalogueName.TryParse(text, out var name) ? name
        : throw new Problem(
            ProblemCode.BadCommandLine,
            $"\"{text}\" cannot be the name of a catalogue",
            $"expected {CatalogueName.Expected}").ToException();
}
