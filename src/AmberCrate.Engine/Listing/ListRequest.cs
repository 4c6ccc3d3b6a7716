using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Listing;

/// <summary>Which installed apps are listed, and how.</summary>
public sealed record ListRequest
{
    /// <summary>Only apps whose id or name holds these words.</summary>
    public IReadOnlyList<string> Words { get; init; } = [];

    /// <summary>Only apps of this catalogue; null for all.</summary>
    public CatalogueName? Catalogue { get; init; }

    /// <summary>Only apps of this kind; null for all.</summary>
    public AppKind? Kind { get; init; }

    /// <summary>Only apps of this scope; null for both.</summary>
    public InstallScope? Scope { get; init; }

    /// <summary>Only apps that have all these marks.</summary>
    public IReadOnlyList<AppMark> Marks { get; init; } = [];

    /// <summary>The order.</summary>
    public ListOrder Order { get; init; }

    /// <summary>Whether anything narrows the list.</summary>
    public bool IsNarrow => Words.Count > 0 || Catalogue is not null || Kind is not null || Scope is not null || Marks.Count > 0;
}
