using AmberCrate.Core.Catalogues;

namespace AmberCrate.Engine.Catalogues;

/// <summary>A bundle of a catalogue, from where it comes.</summary>
/// <param name="Listing">Its name and digest.</param>
/// <param name="FetchAsync">Fetches and verifies its text.</param>
public sealed record BundleContent(BundleListing Listing, Func<CancellationToken, Task<byte[]>> FetchAsync);
