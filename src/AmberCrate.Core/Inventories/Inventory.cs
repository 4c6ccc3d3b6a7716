using AmberCrate.Core.Bundles;

namespace AmberCrate.Core.Inventories;

/// <summary>What is on a machine, for lists that other programs read.</summary>
/// <param name="Machine">The machine's name.</param>
/// <param name="Taken">When it was looked at.</param>
/// <param name="Tool">The version of this program.</param>
/// <param name="Items">The apps, dependencies included, ordered by id.</param>
/// <param name="Bundle">The same machine as a bundle.</param>
public sealed record Inventory(
    string Machine, DateTimeOffset Taken, string Tool, IReadOnlyList<InventoryItem> Items, Bundle Bundle);
