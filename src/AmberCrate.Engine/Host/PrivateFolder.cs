namespace AmberCrate.Engine.Host;

/// <summary>A folder that nobody but its owner can enter.</summary>
internal static class PrivateFolder
{
    /// <summary>Makes it.</summary>
    public static void Make(string path) =>
        Directory.CreateDirectory(path, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
}
