namespace AmberCrate.Engine.Archives;

/// <summary>One entry of an archive, of whatever format.</summary>
/// <param name="Name">The name as it stands in the archive.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Mode">Its permissions, set-user-id and set-group-id included.</param>
/// <param name="Modified">When it was last changed.</param>
/// <param name="LinkTarget">Where it leads, for links.</param>
/// <param name="Content">Its bytes, for files; null for an empty one. To be read before the next entry is requested.</param>
public sealed record ArchiveEntry(
    string Name, ArchiveEntryKind Kind, UnixFileMode Mode, DateTimeOffset Modified, string? LinkTarget, Stream? Content);
