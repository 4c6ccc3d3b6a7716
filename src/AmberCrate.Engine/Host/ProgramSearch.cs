using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Host;

/// <summary>
/// Finds the system's programs that are started here. PATH does not matter: whoever can set it, or write to a folder of it, could
/// otherwise have root start anything.
/// </summary>
internal static class ProgramSearch
{
    /// <summary>The folders that sudo(8) and login(1) trust.</summary>
    private static readonly string[] Folders = ["/usr/local/sbin", "/usr/local/bin", "/usr/sbin", "/usr/bin", "/sbin", "/bin"];

    private const UnixFileMode Executes = UnixFileMode.UserExecute | UnixFileMode.GroupExecute | UnixFileMode.OtherExecute,
        OthersWrite = UnixFileMode.GroupWrite | UnixFileMode.OtherWrite;

    /// <summary>
    /// The path of a program that belongs to root and that only the owner can change; null where there is none.
    /// </summary>
    /// <param name="name">Its name.</param>
    public static string? Trusted(string name) =>
        Folders.Where(IsTrusted).Select(folder => Path.Combine(folder, name)).FirstOrDefault(
            path => File.Exists(path) && IsTrusted(path) && (File.GetUnixFileMode(path) & Executes) != 0);

    private static bool IsTrusted(string path)
    {
        try
        {
            return Posix.OwnerOf(path) == 0 && (File.GetUnixFileMode(path) & OthersWrite) == 0;
        }
        catch (IOException)
        {
            return false;
        }
    }
}
