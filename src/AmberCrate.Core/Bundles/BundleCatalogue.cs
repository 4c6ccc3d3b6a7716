using AmberCrate.Core.Values;

namespace AmberCrate.Core.Bundles;

/// <summary>A catalogue that a bundle takes apps from.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Location">Its folder or address.</param>
public sealed record BundleCatalogue(CatalogueName Name, string Location);
