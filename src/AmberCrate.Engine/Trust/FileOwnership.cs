using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Trust;

/// <summary>Says whether anybody but its owner can change a file or folder.</summary>
internal static class FileOwnership
{
    private const UnixFileMode OfOthers = UnixFileMode.GroupWrite | UnixFileMode.OtherWrite;

    /// <summary>Whether it belongs to this user or to root, and others cannot write it.</summary>
    public static bool IsOurs(string path)
    {
        var owner = Posix.OwnerOf(path);
        return (owner == 0 || owner == Posix.EffectiveUser()) && (File.GetUnixFileMode(path) & OfOthers) == 0;
    }
}
