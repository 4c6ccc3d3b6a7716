using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Searching;

/// <summary>What a search has found.</summary>
/// <param name="Request">What was searched for.</param>
/// <param name="Scope">The scope that was requested.</param>
/// <param name="Apps">The apps, in the order that was requested.</param>
/// <param name="Results">How many there are in all, and how many of them are guesses.</param>
/// <param name="States">The catalogues that were looked into.</param>
/// <param name="Freshness">How fresh the data of all catalogues are.</param>
/// <param name="Nearest">Ids that are spelled nearly like what was searched for, where nothing was found.</param>
public sealed record SearchReport(
    SearchRequest Request, InstallScope Scope, IReadOnlyList<FoundApp> Apps, SearchResults Results,
    IReadOnlyList<CatalogueState> States, DataFreshness Freshness, IReadOnlyList<AppId> Nearest)
{
    /// <summary>The words as one text.</summary>
    public string Query => string.Join(' ', Request.Words);
}
