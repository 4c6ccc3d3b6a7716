using System.CommandLine;
using AmberCrate.Cli.CommandLine;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Listing;

namespace AmberCrate.Cli.Listing;

/// <summary><c>acrate list</c>.</summary>
internal static class ListCommand
{
    private static CommandHelp Help => new(
        "Lists the installed apps with their versions, what they follow, what is newer, and whatever there is to know: "
        + "pinned, held back, in use, changed by hand, damaged, no longer needed. The last line says how old the "
        + "catalogue data are.",
        [3, 7, 9],
        [
        ("acrate list", "all apps, yours and those for all users"),
        ("acrate list --observed", "packages of the system, AppImages, and what else is in the menu"),
        ]);

    public static Command Create()
    {
        var words = new DeclaredArgument<string[]>("WORDS", Completion.InstalledApp)
        {
            Description = "Only apps whose id or name has these words", Arity = ArgumentArity.ZeroOrMore,
        };
        var catalogue = new DeclaredOption<string>(OptionGroup.Selection, "--catalogue")
        {
            Description = "Only apps from the catalogue NAME", HelpName = "NAME", Completion = Completion.Catalogue,
        };
        var kind = new DeclaredOption<string>(OptionGroup.Selection, "--type")
        {
            Description = $"Only apps of this type: {Words(CardWords.Kinds)}", HelpName = "TYPE",
        };
        var scope = new DeclaredOption<string>(OptionGroup.Selection, "--scope")
        {
            Description = $"Only apps of this scope: {Words(ScopeWords.Scopes)}", HelpName = "SCOPE",
        };
        var mark = new DeclaredOption<string[]>(OptionGroup.Selection, "--mark")
        {
            Description = $"Only apps with this mark: {Words(MarkWords.Marks)}", HelpName = "MARK",
        };
        var sort = new DeclaredOption<string>(OptionGroup.Output, "--sort")
        {
            Description = $"Order by {Words(ListOrderWords.Orders)}", HelpName = "ORDER",
        };
        var sizes = new DeclaredOption<bool>(OptionGroup.Output, "--sizes") { Description = "Show how much room each takes" };
        var places = new DeclaredOption<bool>(OptionGroup.Output, "--places") { Description = "Show where each lies" };
        var observed = new DeclaredOption<bool>(OptionGroup.Selection, "--observed")
        {
            Description = "List software that others put on this machine instead, and which catalogue has it",
        };
        var command = new HelpedCommand("list", "What is installed", Help)
        { words, catalogue, kind, scope, mark, observed, sort, sizes, places };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Call(parsed);
            var request = new ListRequest
            {
                Words = parsed.GetValue(words)!,
                Catalogue = parsed.GetValue(catalogue) is { } name ? SharedArguments.ReadCatalogue(name) : null,
                Kind = Choice(CardWords.Kinds, "--type", parsed.GetValue(kind)),
                Scope = Choice(ScopeWords.Scopes, "--scope", parsed.GetValue(scope)),
                Marks = [.. (parsed.GetValue(mark) ?? []).Select(text => Choice(MarkWords.Marks, "--mark", text)!.Value)],
                Order = Choice(ListOrderWords.Orders, "--sort", parsed.GetValue(sort)) ?? ListOrder.Name,
            };
            if (parsed.GetValue(observed))
            {
                RefuseBeside(parsed, kind, scope, mark, sort, sizes, places);
                ObservedView.Show(call.Output, await new ListObserved(call.Session).RunAsync(request, cancel));
                return ExitCodes.AllAsAsked;
            }

            ListView.Show(
                call.Output, await new ListApps(call.Session).RunAsync(request, cancel), parsed.GetValue(sizes),
                parsed.GetValue(places));
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    private static void RefuseBeside(ParseResult parsed, params ReadOnlySpan<Option> others)
    {
        foreach (var other in others)
        {
            if (parsed.GetResult(other) is { Implicit: false })
                throw new Problem(
                    ProblemCode.BadCommandLine, $"{other.Name} does not go with --observed",
                    "it is about apps that acrate installed", "leave one of them out").ToException();
        }
    }

    private static string Words<T>(WordTable<T> table)
        where T : struct, Enum => string.Join(", ", table.Pairs.Select(pair => pair.Word));

    private static T? Choice<T>(WordTable<T> table, string option, string? text)
        where T : struct, Enum => text is null ? null : table.TryRead(text, out var value) ? value
        : throw new Problem(
            ProblemCode.BadCommandLine, $"{option} \"{text}\" is not known", $"expected {table.Expected}").ToException();
}
