using AmberCrate.Core.Cards;

namespace AmberCrate.Engine.Records;

/// <summary>A catalogue that a root knows.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Location">The folder or address it is read from.</param>
public sealed record RegisteredCatalogue(CatalogueName Name, string Location);
