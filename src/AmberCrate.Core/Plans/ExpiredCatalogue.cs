using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>A catalogue whose data are used although their signatures have expired: what is newer may be missing.</summary>
/// <param name="Name">The catalogue.</param>
/// <param name="Since">When the first of them expired.</param>
public sealed record ExpiredCatalogue(CatalogueName Name, DateTimeOffset Since);
