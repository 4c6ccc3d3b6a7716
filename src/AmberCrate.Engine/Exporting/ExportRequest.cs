using AmberCrate.Core.Bundles;
using AmberCrate.Core.Inventories;
using AmberCrate.Core.Versions;

namespace AmberCrate.Engine.Exporting;

/// <summary>How to write a machine down.</summary>
/// <param name="File">The file to write; null for none, only the text.</param>
public sealed record ExportRequest(string? File)
{
    /// <summary>What the bundle calls the machine; null for its name.</summary>
    public string? Title { get; init; }

    /// <summary>What is written about versions.</summary>
    public BundleVersions Versions { get; init; }

    /// <summary>Whether an existing file is brought up to date.</summary>
    public bool IsUpdate { get; init; }

    /// <summary>As what it is written down.</summary>
    public InventoryForm Form { get; init; }

    /// <summary>The only apps that are wanted; empty for all.</summary>
    public IReadOnlyList<AppReference> Only { get; init; } = [];

    /// <summary>The only catalogue whose apps are wanted; null for all.</summary>
    public string? Catalogue { get; init; }

    /// <summary>Whether the user picks the apps on the terminal.</summary>
    public bool IsPicking { get; init; }
}
