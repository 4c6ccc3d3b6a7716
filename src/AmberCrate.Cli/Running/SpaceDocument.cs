namespace AmberCrate.Cli.Running;

/// <summary>How much room a plan takes on a file system, as JSON.</summary>
internal sealed record SpaceDocument(
    string MountPoint,
    long Needed,
    long Free,
    bool Estimate);
