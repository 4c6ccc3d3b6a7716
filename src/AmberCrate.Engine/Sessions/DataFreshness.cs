using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Engine.Sessions;

/// <summary>How fresh the catalogue data are that a result rests on.</summary>
/// <param name="States">The data of each catalogue that is asked, in their order; those never fetched are left out.</param>
/// <param name="Now">The time at which this was looked at.</param>
public sealed record DataFreshness(IReadOnlyList<CatalogueState> States, DateTimeOffset Now)
{
    /// <summary>How many catalogues there are, those included that are not asked.</summary>
    public int Known { get; init; }

    /// <summary>The catalogues that are not asked for now.</summary>
    public IReadOnlyList<CatalogueName> Paused { get; init; } = [];

    /// <summary>The catalogues without known data yet.</summary>
    public IReadOnlyList<CatalogueName> NeverFetched { get; init; } = [];

    /// <summary>The catalogues that are published and not signed.</summary>
    public IReadOnlyList<CatalogueName> NotSigned { get; init; } = [];

    /// <summary>The catalogues with a signed role that ends soon, or has ended, with the time.</summary>
    public IReadOnlyList<(CatalogueName Name, DateTimeOffset Ends)> EndingSoon { get; init; } = [];

    /// <summary>The apps of other maintainers that are not up to date with their catalogue, and why.</summary>
    public IEnumerable<(CatalogueName Name, FrozenApps Apps)> Frozen =>
        States.SelectMany(state => state.Frozen.Select(apps => (state.Name, apps)));

    /// <summary>The same together with the catalogues of the other scope, behind these.</summary>
    public DataFreshness With(DataFreshness other) => this with
    {
        States = [.. States, .. other.States],
        Known = Known + other.Known,
        Paused = [.. Paused, .. other.Paused],
        NeverFetched = [.. NeverFetched, .. other.NeverFetched],
        NotSigned = [.. NotSigned, .. other.NotSigned],
        EndingSoon = [.. EndingSoon, .. other.EndingSoon],
    };

    /// <summary>The catalogues that brought nothing new when they were last asked, because something went wrong.</summary>
    public IEnumerable<CatalogueName> NotRefreshed => States.Where(state => state.IsBehind).Select(state => state.Name);
}
