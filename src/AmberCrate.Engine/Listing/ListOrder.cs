using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Listing;

/// <summary>The orders of a list of installed apps.</summary>
public enum ListOrder
{
    /// <summary>By id.</summary>
    Name,

    /// <summary>The largest first.</summary>
    Size,

    /// <summary>The latest first.</summary>
    Installed,

    /// <summary>By catalogue, then by id.</summary>
    Catalogue,
}

/// <summary>The words for <see cref="ListOrder"/>, for an option.</summary>
public static class ListOrderWords
{
    /// <summary>A word for each order.</summary>
    public static WordTable<ListOrder> Orders { get; } = new(
        (ListOrder.Name, "name"), (ListOrder.Size, "size"), (ListOrder.Installed, "installed"),
        (ListOrder.Catalogue, "catalogue"));
}
