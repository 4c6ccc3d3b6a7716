using System.IO.Enumeration;

namespace AmberCrate.Engine.Host;

/// <summary>
/// Walks a folder with everything in it, and follows no link: a link may lead anywhere, also in circles. The framework's own
/// enumerations follow links to folders.
/// </summary>
internal static class FolderTree
{
    /// <summary>Everything below a folder, links themselves included.</summary>
    /// <param name="folder">The folder.</param>
    /// <param name="skipsInaccessible">Whether folders that cannot be entered are left out; otherwise they are an error.</param>
    /// <exception cref="IOException">The folder is not there.</exception>
    public static IEnumerable<FileSystemInfo> In(string folder, bool skipsInaccessible = false) =>
        new FileSystemEnumerable<FileSystemInfo>(
            folder, (ref FileSystemEntry entry) => entry.ToFileSystemInfo(),
            new EnumerationOptions
            {
                RecurseSubdirectories = true, AttributesToSkip = FileAttributes.None, IgnoreInaccessible = skipsInaccessible,
            })
        {
            ShouldRecursePredicate = (ref FileSystemEntry entry) => (entry.Attributes & FileAttributes.ReparsePoint) == 0,
        };
}
