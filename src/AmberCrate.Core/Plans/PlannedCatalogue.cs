using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>A catalogue that a plan adds to the machine before its first item.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Location">The folder or address it is read from.</param>
/// <param name="Problem">Why it cannot be added, so that it will not be; null where it can.</param>
public sealed record PlannedCatalogue(CatalogueName Name, string Location, Problem? Problem = null)
{
    /// <summary>Why what it says is believed.</summary>
    public CatalogueTrust Trust { get; init; } = CatalogueTrust.Cards;

    /// <summary>Where the same files lie, too.</summary>
    public IReadOnlyList<string> Mirrors { get; init; } = [];

    /// <summary>Whether it is dropped instead.</summary>
    public bool IsDropped { get; init; }

    /// <summary>The ids of apps that came from another catalogue of this name, and will belong to this one.</summary>
    public IReadOnlyList<string> TakesOver { get; init; } = [];
}
