using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>The catalogues of a machine.</summary>
/// <param name="Entries">The catalogues, in order of preference.</param>
/// <param name="Now">The time at which they were looked at.</param>
public sealed record CatalogueList(IReadOnlyList<CatalogueEntry> Entries, DateTimeOffset Now)
{
    internal static CatalogueList Read(Workstation station) => new(
        [.. station.Records.Catalogues().Select(catalogue => new CatalogueEntry(
            catalogue, station.Cache.StateOf(catalogue))
        {
            EndsFirst = catalogue.Trust.Root is { } root ? station.Signed.RolesOf(root)
                .Where(role => !role.IsDelegated).MinBy(role => role.Expires) : null,
        })],
        station.Now);
}
