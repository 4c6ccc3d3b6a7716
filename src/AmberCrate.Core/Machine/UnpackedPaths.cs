namespace AmberCrate.Core.Machine;

/// <summary>
/// What has been unpacked into one folder so far. Where an app comes in several files, each must know what the earlier ones
/// have put there.
/// </summary>
public sealed class UnpackedPaths
{
    /// <summary>The symbolic links.</summary>
    internal HashSet<string> Links { get; } = new(StringComparer.Ordinal);

    /// <summary>The files.</summary>
    internal HashSet<string> Files { get; } = new(StringComparer.Ordinal);
}
