using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Catalogues;

/// <summary>What the cache holds of one catalogue.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Title">Its name for people.</param>
/// <param name="Base">The base address of relative locations.</param>
/// <param name="Mark">The mark that a later request sends to ask for changes; null if there is none.</param>
/// <param name="Refreshed">When it was last found to be up to date.</param>
/// <param name="Apps">How many apps it offers.</param>
/// <param name="Tried">When it was last asked, with or without success.</param>
public sealed record CatalogueState(
    CatalogueName Name, string Title, Uri Base, string? Mark, DateTimeOffset Refreshed, int Apps, DateTimeOffset Tried)
{
    /// <summary>Whose catalogue it is.</summary>
    public InstallScope Scope { get; init; }

    /// <summary>The apps of other maintainers that are not up to date with it.</summary>
    public IReadOnlyList<FrozenApps> Frozen { get; init; } = [];

    /// <summary>On how many machines it has counted its apps; 0 where it has not.</summary>
    public int Machines { get; init; }

    /// <summary>What went wrong when it was last asked; null if that went well.</summary>
    public ProblemCode? Fault { get; init; }

    /// <summary>Whether the last try brought nothing: these data are of an earlier one.</summary>
    public bool IsBehind => Fault is not null;

    /// <summary>Whether it answered when it was last asked. What it said may have been refused.</summary>
    public bool IsReached => Fault is null or ProblemCode.NotVerified or ProblemCode.Expired;
}
