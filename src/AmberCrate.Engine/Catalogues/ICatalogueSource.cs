using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// Where a catalogue comes from. A new kind of source is one class more, named in <see cref="CatalogueSources"/>.
/// </summary>
public interface ICatalogueSource
{
    /// <summary>Reads what the catalogue is now.</summary>
    /// <param name="knownMark">The mark of the cached data; null to read in any case.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <returns>The catalogue, whose parts are fetched when they are requested; null where it is still what the mark
    /// says.</returns>
    /// <exception cref="ProblemException">It cannot be reached, or has faults.</exception>
    Task<CatalogueSnapshot?> ReadAsync(string? knownMark, CancellationToken cancel);
}
