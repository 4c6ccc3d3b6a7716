using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Searching;

/// <summary>What narrows a search; null where it does not matter.</summary>
public sealed record SearchFilter
{
    /// <summary>Only this kind.</summary>
    public AppKind? Kind { get; init; }

    /// <summary>Only categories whose plain words begin with this, folded.</summary>
    public string? Category { get; init; }

    /// <summary>Only developers whose name holds this, folded.</summary>
    public string? Developer { get; init; }

    /// <summary>Only licence expressions with this identifier in them, in lower case.</summary>
    public string? Licence { get; init; }

    /// <summary>Only apps that are installed, or only those that are not.</summary>
    public bool? Installed { get; init; }

    /// <summary>Only apps that the maintainers have reviewed.</summary>
    public bool ReviewedOnly { get; init; }

    /// <summary>Whether nothing is narrowed.</summary>
    public bool IsEmpty => this == new SearchFilter();
}
