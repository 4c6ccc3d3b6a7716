namespace AmberCrate.Engine.Host;

/// <summary>How much the files of a folder hold.</summary>
public static class FolderSize
{
    private static readonly EnumerationOptions All = new()
    {
        RecurseSubdirectories = true, AttributesToSkip = FileAttributes.None, IgnoreInaccessible = true,
    };

    /// <summary>The bytes of all files below a folder; links count nothing, and files that cannot be reached neither.</summary>
    /// <param name="folder">The folder; one that is not there holds nothing.</param>
    public static long Of(string folder) => !Directory.Exists(folder) ? 0 : new DirectoryInfo(folder)
        .EnumerateFiles("*", All).Where(file => file.LinkTarget is null).Sum(file => file.Length);
}
