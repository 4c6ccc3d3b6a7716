namespace AmberCrate.Engine.Host;

/// <summary>How much room on the disk would be given back by deleting something.</summary>
public static class DiskRoom
{
    /// <summary>The bytes of all files below a folder that have no other name outside of it; links count nothing.</summary>
    /// <param name="folder">The folder; one that is not there holds nothing.</param>
    public static long Of(string folder)
    {
        if (!Directory.Exists(folder)) return 0;
        var sum = 0L;
        var names = new Dictionary<(string, ulong), (uint Links, uint Seen, long Size)>();
        foreach (var file in FolderTree.In(folder, skipsInaccessible: true).OfType<FileInfo>()
            .Where(file => file.LinkTarget is null))
        {
            if (Posix.LinksOf(file.FullName) is not { Count: > 1 } links)
            {
                sum += file.Length;
                continue;
            }

            var (_, seen, _) = names.GetValueOrDefault(links.File);
            names[links.File] = (links.Count, seen + 1, file.Length);
        }

        return sum + names.Values.Where(name => name.Seen == name.Links).Sum(name => name.Size);
    }
}
