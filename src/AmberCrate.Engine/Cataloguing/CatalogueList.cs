using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>The catalogues of a machine.</summary>
/// <param name="Entries">The catalogues, in order of preference.</param>
/// <param name="Now">The time at which they were looked at.</param>
public sealed record CatalogueList(IReadOnlyList<CatalogueEntry> Entries, DateTimeOffset Now)
{
    internal static CatalogueList Read(KnownCatalogues catalogues, DateTimeOffset now) => new(
        [.. catalogues.All().Select(catalogue => new CatalogueEntry(catalogue, catalogues.StateOf(catalogue))
        {
            EndsFirst = catalogues.EndsFirst(catalogue),
        })],
        now);
}
