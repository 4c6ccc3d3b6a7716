namespace AmberCrate.Core.Trust;

/// <summary>The roles of the top level.</summary>
public enum TrustRole
{
    /// <summary>Says which keys belong to which role.</summary>
    Root,

    /// <summary>Says which snapshot is the newest; signed often.</summary>
    Timestamp,

    /// <summary>Says which versions of the targets belong together.</summary>
    Snapshot,

    /// <summary>Says what the files are.</summary>
    Targets,
}
