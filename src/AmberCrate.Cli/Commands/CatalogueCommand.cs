using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate catalogue</c> and its commands.</summary>
internal static class CatalogueCommand
{
    public static Command Create()
    {
        var command = new Command("catalogue", "Where apps come from") { CreateAdd(), CreateList(), CreateRefresh(), CreateRank(), CreatePause(), CreateResume(), CreateDrop(), CreateBuild() };
        command.Aliases.Add("catalog");
        return command;
    }

    private static Command CreateAdd()
    {
        var name = new Argument<string>("NAME") { Description = "What to call it here" };
        var location = new Argument<string>("LOCATION") { Description = "A folder of cards, a published tree, or its http address" };
        var command = new Command("add", "Take apps from one more catalogue") { name, location };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            var catalogue = new RegisteredCatalogue(ReadName(parsed.GetValue(name)!), CatalogueRefresh.Normalise(parsed.GetValue(location)!));
            if (call.RunRaised() is { } ended) return ended;
            using var station = call.OpenToChange();
            if (station.Records.Catalogues().FirstOrDefault(known => known.Name == catalogue.Name) is { } taken)
                throw new Problem(ProblemCode.Refused, $"there is a catalogue {taken.Name} already", $"it is at {taken.Location}", $"acrate catalogue drop {taken.Name}, or choose another name").ToException();
            var result = (await station.RefreshAsync([catalogue], call.WatchRefresh, cancel))[0];
            call.Output.Status("");
            if (result.Problem is { } problem) throw (problem with { Why = Joined(problem.Why, "the catalogue has not been added") }).ToException();
            station.Records.AddCatalogue(catalogue);
            CatalogueView.ShowAdded(call.Output, result);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static Command CreateList()
    {
        var command = new Command("list", "The catalogues, in order of preference");
        command.SetAction(parsed =>
        {
            using var call = new Invocation(parsed);
            using var station = call.OpenToRead();
            CatalogueView.ShowList(call.Output, station);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static Command CreateRefresh()
    {
        var names = new Argument<string[]>("NAME") { Description = "The catalogues to bring up to date; all unless named", Arity = ArgumentArity.ZeroOrMore };
        var command = new Command("refresh", "Bring catalogue data up to date") { names };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            var wanted = parsed.GetValue(names)!.Select(ReadName).ToList();
            if (call.RunRaised() is { } ended) return ended;
            using var station = call.OpenToChange();
            var known = station.Records.Catalogues();
            foreach (var unknown in wanted.Where(name => known.All(catalogue => catalogue.Name != name))) throw Unknown(unknown, known).ToException();
            var results = await station.RefreshAsync(known.Where(catalogue => wanted.Count == 0 ? !catalogue.IsPaused : wanted.Contains(catalogue.Name)), call.WatchRefresh, cancel);
            call.Output.Status("");
            CatalogueView.ShowRefreshed(call.Output, results);
            var problems = results.Select(result => result.Problem).OfType<Problem>().ToList();
            if (problems.Count == 0) return ExitCodes.AllAsAsked;
            return problems.Count == results.Count ? ExitCodes.Of(problems[0].Code) : ExitCodes.SomeFailed;
        });
        return command;
    }

    private static Command CreateRank()
    {
        var names = new Argument<string[]>("NAME") { Description = "Catalogues in the order in which they are preferred; the others follow as they were", Arity = ArgumentArity.OneOrMore };
        var command = new Command("rank", "Say which catalogue an app is taken from first") { names };
        command.SetAction(parsed =>
        {
            using var call = new Invocation(parsed);
            var order = parsed.GetValue(names)!.Select(ReadName).Distinct().ToList();
            if (call.RunRaised() is { } ended) return ended;
            using var station = call.OpenToChange();
            foreach (var name in order) RequireKnown(name, station);
            station.Records.Rank(order);
            CatalogueView.ShowList(call.Output, station);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static Command CreatePause() => CreatePausing("pause", "Leave a catalogue out until it is resumed", pause: true);

    private static Command CreateResume() => CreatePausing("resume", "Ask a paused catalogue again", pause: false);

    private static Command CreatePausing(string verb, string description, bool pause)
    {
        var name = new Argument<string>("NAME") { Description = "The catalogue" };
        var command = new Command(verb, description) { name };
        command.SetAction(parsed =>
        {
            using var call = new Invocation(parsed);
            var catalogue = ReadName(parsed.GetValue(name)!);
            if (call.RunRaised() is { } ended) return ended;
            using var station = call.OpenToChange();
            RequireKnown(catalogue, station);
            station.Records.Pause(catalogue, pause);
            CatalogueView.ShowList(call.Output, station);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static void RequireKnown(CatalogueName name, Workstation station)
    {
        var known = station.Records.Catalogues();
        if (known.All(catalogue => catalogue.Name != name)) throw Unknown(name, known).ToException();
    }

    private static Command CreateDrop()
    {
        var name = new Argument<string>("NAME") { Description = "The catalogue to forget" };
        var command = new Command("drop", "Forget a catalogue; installed apps stay") { name };
        command.SetAction(parsed =>
        {
            using var call = new Invocation(parsed);
            var dropped = ReadName(parsed.GetValue(name)!);
            if (call.RunRaised() is { } ended) return ended;
            using var station = call.OpenToChange();
            var known = station.Records.Catalogues();
            if (known.All(catalogue => catalogue.Name != dropped)) throw Unknown(dropped, known).ToException();

            // The data first, which can be fetched again: where that fails, the catalogue is still there to be dropped.
            station.Cache.Drop(dropped);
            station.Records.DropCatalogue(dropped);
            CatalogueView.ShowDropped(call.Output, dropped, station.State().Apps.Count(app => app.Catalogue == dropped));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static Command CreateBuild()
    {
        var cards = new Argument<string>("CARDS-DIR") { Description = "The folder of app cards" };
        var target = new Argument<string>("OUT-DIR") { Description = "The folder to publish to, for any file server" };
        var artifacts = new Option<bool>("--with-artifacts") { Description = "Verify and copy the artifacts that lie beside the cards" };
        var afresh = new Option<bool>("--afresh") { Description = "Write every app anew instead of laying changes over what is there" };
        var command = new Command("build", "Check a folder of cards and publish it") { cards, target, artifacts, afresh };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            var folder = parsed.GetValue(cards)!;
            if (!Directory.Exists(folder)) throw new Problem(ProblemCode.NothingMatched, $"there is no folder {folder}").ToException();
            var document = await CataloguePublisher.PublishAsync(folder, parsed.GetValue(target)!, parsed.GetValue(artifacts), parsed.GetValue(afresh), cancel);
            CatalogueView.ShowBuilt(call.Output, document, parsed.GetValue(target)!);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static CatalogueName ReadName(string text) =>
        CatalogueName.TryParse(text, out var name) ? name
        : throw new Problem(ProblemCode.BadCommandLine, $"\"{text}\" cannot be the name of a catalogue", $"expected {CatalogueName.Expected}").ToException();

    private static Problem Unknown(CatalogueName name, IReadOnlyList<RegisteredCatalogue> known) => new(
        ProblemCode.NothingMatched, $"there is no catalogue \"{name}\"", Remedy: known.Count == 0 ? "none has been added yet" : $"the catalogues are: {string.Join(", ", known.Select(catalogue => catalogue.Name))}");

    private static string Joined(string why, string state) => why.Length == 0 ? state : $"{why}; {state}";
}
