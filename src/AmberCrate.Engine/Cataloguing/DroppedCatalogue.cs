using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>A catalogue that has been dropped.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Apps">How many installed apps came from it; they stay.</param>
public sealed record DroppedCatalogue(CatalogueName Name, int Apps);
