using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Searching;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate search</c>.</summary>
internal static class SearchCommand
{
    private const int DefaultLimit = 20;

    public static Command Create()
    {
        var words = new Argument<string[]>("WORDS") { Description = "What it is called, or what it is for", Arity = ArgumentArity.OneOrMore };
        var limit = new Option<int>("--limit") { Description = "Show at most N apps", HelpName = "N", DefaultValueFactory = _ => DefaultLimit };
        limit.Validators.Add(result =>
        {
            if (result.GetValueOrDefault<int>() < 1) result.AddError("--limit takes a whole number from 1");
        });
        var command = new Command("search", "Find apps by name or purpose") { words, limit };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            using var station = await call.OpenToReadFreshAsync(cancel);
            var query = SearchQuery.Of(parsed.GetValue(words)!);
            var results = station.Cache.Search(query, station.Offers().Catalogues);
            SearchView.Show(call.Output, string.Join(' ', parsed.GetValue(words)!), [.. results.Take(parsed.GetValue(limit))], results.Count, station);
            return results.Count > 0 ? ExitCodes.AllAsAsked : ExitCodes.Of(Core.Problems.ProblemCode.NothingMatched);
        });
        return command;
    }
}
