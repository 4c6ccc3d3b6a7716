namespace AmberCrate.Engine.Host;

/// <summary>
/// Addresses of files after RFC 8089. The framework takes a path for an address that is escaped in part already, so that
/// a folder with a % in its name would become another one.
/// </summary>
public static class FileAddress
{
    /// <summary>The address of a folder, ending in <c>/</c>.</summary>
    public static Uri OfFolder(string path) =>
        new("file://" + string.Join('/', Path.GetFullPath(path).TrimEnd('/').Split('/').Select(Uri.EscapeDataString)) + "/");
}
