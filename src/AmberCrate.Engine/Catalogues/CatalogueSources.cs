using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Catalogues;

/// <summary>The kinds of sources of catalogues, told from each other by a location.</summary>
/// <param name="bytes">Opens addresses.</param>
public sealed class CatalogueSources(IByteSource bytes)
{
    /// <summary>The source of a location.</summary>
    /// <param name="location">An address, or the absolute path of a folder.</param>
    /// <exception cref="ProblemException">There is no such folder.</exception>
    public ICatalogueSource Of(string location)
    {
        if (location.Contains("://", StringComparison.Ordinal))
            return new PublishedCatalogue(new Uri(location.TrimEnd('/') + "/"), bytes);
        if (!Directory.Exists(location)) throw new Problem(
            ProblemCode.Unreachable, $"there is no folder {location}",
            remedy: $"mount it, or remove the catalogue: {NextCommand.Of("catalogue drop", "NAME")}").ToException();
        return File.Exists(Path.Combine(location, CatalogueDocument.FileName))
            ? new PublishedCatalogue(FileAddress.OfFolder(location), bytes)
            : new CardFolder(location);
    }
}
