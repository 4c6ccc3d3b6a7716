using Microsoft.Win32.SafeHandles;

namespace AmberCrate.Engine.SystemCalls;

/// <summary>
/// Which file this is, and when anything of it was changed last: as long as this is the same, so is what is in it. Nobody but
/// root can set the time of that change.
/// </summary>
/// <param name="Device">The device, as <c>major:minor</c>.</param>
/// <param name="Number">The number of the inode.</param>
/// <param name="Changed">When content, name or attributes were changed last, in seconds and nanoseconds.</param>
public sealed record FileIdentity(string Device, ulong Number, (long Seconds, uint Nanoseconds) Changed)
{
    /// <summary>Looks at an open file.</summary>
    /// <exception cref="IOException">That is not possible.</exception>
    public static FileIdentity Read(SafeFileHandle file) => Posix.IdentityOf(file);

    /// <summary>Looks at what is at a path, without following a link there; null if nothing is.</summary>
    public static FileIdentity? At(string path) => Posix.IdentityAt(path);

    /// <summary>Whether this is the same file, be it changed or not.</summary>
    public bool IsSameFile(FileIdentity? other) => other is not null && (Device, Number) == (other.Device, other.Number);
}
