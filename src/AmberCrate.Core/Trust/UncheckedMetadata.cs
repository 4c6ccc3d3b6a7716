using AmberCrate.Core.Values;

namespace AmberCrate.Core.Trust;

/// <summary>Reads what a role says, for who has written it or has checked it before: no signature is looked at.</summary>
public static class UncheckedMetadata
{
    /// <summary>Reads a root.</summary>
    /// <exception cref="MalformedException">It is none.</exception>
    public static RootMetadata Root(ReadOnlyMemory<byte> bytes) => MetadataReader.Root(SignedMetadata.Read(bytes).Content);

    /// <summary>Reads targets.</summary>
    /// <exception cref="MalformedException">They are none.</exception>
    public static TargetsMetadata Targets(ReadOnlyMemory<byte> bytes) =>
        MetadataReader.Targets(SignedMetadata.Read(bytes).Content);

    /// <summary>Reads a snapshot.</summary>
    /// <exception cref="MalformedException">It is none.</exception>
    public static SnapshotMetadata Snapshot(ReadOnlyMemory<byte> bytes) =>
        MetadataReader.Snapshot(SignedMetadata.Read(bytes).Content);

    /// <summary>Reads a timestamp.</summary>
    /// <exception cref="MalformedException">It is none.</exception>
    public static TimestampMetadata Timestamp(ReadOnlyMemory<byte> bytes) =>
        MetadataReader.Timestamp(SignedMetadata.Read(bytes).Content);
}
