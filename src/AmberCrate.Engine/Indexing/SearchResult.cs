using AmberCrate.Core.Cards;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Indexing;

/// <summary>One app found by a search: what a list shows of it.</summary>
/// <param name="Catalogue">The catalogue.</param>
/// <param name="Id">The id.</param>
/// <param name="Name">The name for people.</param>
/// <param name="Summary">One line about it.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Newest">Its newest releases, as <see cref="NewestReleases"/> keeps them.</param>
/// <param name="Released">The date of its newest release, as ISO 8601 writes it.</param>
/// <param name="Match">Why and how well it matches.</param>
public sealed record SearchResult(
    CatalogueName Catalogue,
    AppId Id,
    string Name,
    string Summary,
    AppKind Kind,
    string Newest,
    string Released,
    SearchMatch Match)
{
    /// <summary>On how many machines its catalogue has counted it; 0 where it has not.</summary>
    public int Machines { get; init; }
}
