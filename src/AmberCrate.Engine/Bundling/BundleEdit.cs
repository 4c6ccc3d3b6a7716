using AmberCrate.Core.Bundles;

namespace AmberCrate.Engine.Bundling;

/// <summary>What editing a bundle has done.</summary>
/// <param name="File">The absolute path of the file.</param>
/// <param name="Bundle">The bundle as it is now, without what it builds on.</param>
public sealed record BundleEdit(string File, Bundle Bundle)
{
    /// <summary>The entries that are new.</summary>
    public IReadOnlyList<BundleApp> Added { get; init; } = [];

    /// <summary>The entries whose reference has been changed.</summary>
    public IReadOnlyList<BundleApp> Changed { get; init; } = [];

    /// <summary>The entries that were there already as they are to be.</summary>
    public IReadOnlyList<BundleApp> Unchanged { get; init; } = [];

    /// <summary>The apps whose entries have been taken out.</summary>
    public IReadOnlyList<string> Dropped { get; init; } = [];

    /// <summary>The apps of layers below that the bundle drops from now on.</summary>
    public IReadOnlyList<string> DroppedBelow { get; init; } = [];
}
