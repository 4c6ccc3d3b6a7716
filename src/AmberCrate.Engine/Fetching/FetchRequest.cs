namespace AmberCrate.Engine.Fetching;

/// <summary>A request to a source.</summary>
/// <param name="Address">The address.</param>
public sealed record FetchRequest(Uri Address)
{
    /// <summary>The mark of the cached data; null to fetch in any case.</summary>
    public string? KnownMark { get; init; }

    /// <summary>
    /// How many bytes the whole should have. Where a server names just this length, it sends the file itself, whatever encoding
    /// it says is on top: archives are often labelled so.
    /// </summary>
    public long? WholeLength { get; init; }

    /// <summary>
    /// The address of the catalogue that names this one, which may not lead further in than the catalogue itself lies; null for
    /// the address itself, which a user has given.
    /// </summary>
    public Uri? Catalogue { get; init; }

    /// <summary>The first wanted byte. A server may send the whole all the same.</summary>
    public long From { get; init; }
}
