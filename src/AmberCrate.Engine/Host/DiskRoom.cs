namespace AmberCrate.Engine.Host;

/// <summary>How much room on the disk would be freed by deleting something.</summary>
public static class DiskRoom
{
    /// <summary>The bytes of all files below a folder that have no other name outside of it; links count nothing.</summary>
    /// <param name="folder">The folder; one that is not there holds nothing.</param>
    public static long Measure(string folder) => Directory.Exists(folder) ? RawTree.SizeOf(folder) : 0;
}
