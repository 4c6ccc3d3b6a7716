using AmberCrate.Core.Values;

namespace AmberCrate.Engine.BundleFiles;

/// <summary>Where bundles come from that are no files of this machine.</summary>
public interface IBundleShelf
{
    /// <summary>Fetches the text of a bundle from an address.</summary>
    /// <param name="address">An http or https address.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="Exception">It is not available.</exception>
    Task<byte[]> FetchAsync(Uri address, CancellationToken cancel);

    /// <summary>The text of a bundle that a catalogue carries; null where it carries none of that name.</summary>
    /// <param name="catalogue">The catalogue.</param>
    /// <param name="name">The bundle's name there.</param>
    byte[]? Find(CatalogueName catalogue, string name);

    /// <summary>The location of a catalogue, the base of the relative ones in its bundles; null where it is not
    /// known.</summary>
    string? LocationOf(CatalogueName catalogue);
}
