namespace AmberCrate.Core.Bundles;

/// <summary>Software that was on a machine and that its bundle cannot install.</summary>
/// <param name="Name">The app, package or program.</param>
/// <param name="Reason">Why it cannot.</param>
public sealed record LeftBehind(string Name, string Reason)
{
    /// <summary>Its version; null if unknown.</summary>
    public string? Version { get; init; }

    /// <summary>Where it was seen; null where it is one of our own apps.</summary>
    public string? Seen { get; init; }
}
