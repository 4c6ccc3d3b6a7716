using AmberCrate.Core.Catalogues;

namespace AmberCrate.Engine.Catalogues;

/// <summary>A catalogue as it is now at its location.</summary>
/// <param name="Settings">What it says about itself.</param>
/// <param name="Base">The base address of relative locations, ending in <c>/</c>.</param>
/// <param name="Mark">The mark that a later request sends to ask for changes; null if there is none.</param>
/// <param name="Apps">How many apps it offers; null where that is not known before they are all there.</param>
/// <param name="Parts">Its parts, lower layers first.</param>
public sealed record CatalogueSnapshot(
    CatalogueSettings Settings, Uri Base, string? Mark, int? Apps, IReadOnlyList<PartContent> Parts)
{
    /// <summary>How many machines have its apps; null if not counted.</summary>
    public Popularity? Popularity { get; init; }

    /// <summary>
    /// Other maintainers whose signatures do not verify now. Their cached apps stay as they are. Place is the position of the
    /// maintainer's layers.
    /// </summary>
    public IReadOnlyList<(PartMaintainer Maintainer, int Place, string Why)> Frozen { get; init; } = [];

    /// <summary>The bundles that it carries.</summary>
    public IReadOnlyList<BundleContent> Bundles { get; init; } = [];
}
