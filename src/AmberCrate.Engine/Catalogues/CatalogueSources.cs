using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Catalogues;

/// <summary>The kinds of sources of catalogues, told from each other by a location.</summary>
/// <param name="bytes">Opens addresses.</param>
/// <param name="trust">What is believed of signed catalogues; null where none are.</param>
public sealed class CatalogueSources(IByteSource bytes, TrustStore? trust = null)
{
    /// <summary>The source of a catalogue.</summary>
    /// <exception cref="ProblemException">There is no such folder.</exception>
    public ICatalogueSource Open(RegisteredCatalogue catalogue)
    {
        if (catalogue.Trust == CatalogueTrust.Cards && IsPublished(catalogue.Location))
            throw new Problem(
                ProblemCode.Refused, $"the catalogue {catalogue.Name} at {catalogue.Location} is a published one now",
                "it was added as a folder of cards, and no root to trust it under has been named",
                $"{NextCommand.Create("catalogue drop", catalogue.Name.Text)}, and add it again").ToException();
        if (catalogue.Trust.Root is not { } root) return Open(catalogue.Location, catalogue.Name.Text);
        if (!Address.Is(catalogue.Location) && !Directory.Exists(catalogue.Location))
            throw Gone(catalogue.Location, catalogue.Name.Text);
        return new SignedCatalogue(
            AddressOf(catalogue.Location), bytes, trust!, root, [.. catalogue.Mirrors.Select(AddressOf)]);
    }

    /// <summary>The address of a published catalogue, ending in a slash.</summary>
    public static Uri AddressOf(string location) => Address.Is(location)
        ? new Uri(location.TrimEnd('/') + "/")
        : FileAddress.OfFolder(location);

    /// <summary>The source of a location that is not signed.</summary>
    /// <param name="location">An address, or the absolute path of a folder.</param>
    /// <exception cref="ProblemException">There is no such folder.</exception>
    public ICatalogueSource Open(string location) => Open(location, name: null);

    private ICatalogueSource Open(string location, string? name)
    {
        if (Address.Is(location)) return new PublishedCatalogue(AddressOf(location), bytes);
        if (!Directory.Exists(location)) throw Gone(location, name);
        return IsPublished(location) ? new PublishedCatalogue(AddressOf(location), bytes) : new CardFolder(location);
    }

    /// <summary>Whether a location has a catalogue as it is published, and not a folder of cards.</summary>
    public static bool IsPublished(string location) => Address.Is(location)
        || File.Exists(Path.Combine(location, CatalogueDocument.FileName));

    private static ProblemException Gone(string location, string? name) => new Problem(
        ProblemCode.Unreachable, $"there is no folder {location}",
        remedy: name is null ? "check the path, or mount it"
            : Advice.Combine($"mount it, or remove the catalogue: {NextCommand.Create("catalogue drop", name)}")).ToException();
}
