using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Catalogues;

/// <summary>A catalogue that a root knows.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Location">The folder or address it is read from.</param>
/// <param name="IsPaused">Whether it is not asked for now.</param>
public sealed record RegisteredCatalogue(CatalogueName Name, string Location, bool IsPaused = false)
{
    /// <summary>Why what it says is believed.</summary>
    public CatalogueTrust Trust { get; init; } = CatalogueTrust.Cards;

    /// <summary>Folders and addresses where the same files lie, too; for a signed catalogue only.</summary>
    public IReadOnlyList<string> Mirrors { get; init; } = [];
}
