using AmberCrate.Cli.Texts;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Cli.Shared;

/// <summary>How fresh the data of one catalogue are, as JSON.</summary>
internal sealed record CatalogueDataDocument(
    string Name,
    string Scope,
    string Refreshed,
    bool Reached,
    int Apps,
    IReadOnlyList<FrozenDocument> Frozen)
{
    public string? Fault { get; private init; }

    public static IReadOnlyList<CatalogueDataDocument> FromCatalogues(IEnumerable<CatalogueState> states) =>
        [.. states.Select(
            state => new CatalogueDataDocument(
                state.Name.Text, ScopeWords.Scopes.WordOf(state.Scope), PlainText.Time(state.Refreshed), state.IsReached,
                state.Apps, [.. state.Frozen.Select(one => new FrozenDocument(one.Maintainer, one.Why))])
            {
                Fault = state.Fault is { } fault ? ProblemWords.Codes.WordOf(fault) : null,
            })];
}
