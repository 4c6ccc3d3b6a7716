using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Publishing;

/// <summary>
/// The files that have been copied or made in a published folder, in a list beside them, so that what is ours is known from
/// what others keep there. A file that nothing names any more is removed one publication later: a reader who is in the middle
/// still has what named it before.
/// </summary>
/// <param name="folder">The published folder.</param>
/// <param name="list">The list's file. A line is <c>named PATH</c> or <c>unnamed PATH</c>.</param>
internal sealed class PublishedFiles(string folder, string list = PublishedFiles.FileName)
{
    /// <summary>The list of artifacts.</summary>
    public const string FileName = "published-files.txt";

    private const string Named = "named", Unnamed = "unnamed";
    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    private readonly string _list = Path.Combine(folder, list);

    /// <summary>Whether a file is in the list.</summary>
    public bool Has(string path) => Read().ContainsKey(path);

    /// <summary>Notes files that have been copied.</summary>
    public void Add(IEnumerable<string> paths)
    {
        var known = Read();
        foreach (var path in paths) known[path] = true;
        Write(known);
    }

    /// <summary>Notes which files are named now, and removes what was not named the last time either.</summary>
    /// <param name="named">What cards name now.</param>
    /// <param name="isPruning">Whether to remove anything.</param>
    /// <returns>What was removed.</returns>
    public IReadOnlyList<string> Commit(IReadOnlySet<string> named, bool isPruning)
    {
        var known = Read();
        if (known.Count == 0) return [];
        var removed = isPruning
            ? known.Where(file => !file.Value && !named.Contains(file.Key)).Select(file => file.Key).Where(Remove).ToList()
            : [];
        foreach (var path in removed) known.Remove(path);
        Write(known.Keys.ToDictionary(path => path, named.Contains, StringComparer.Ordinal));
        return removed;
    }

    /// <summary>Removes a file; false where it is behind a link, which may lead to foreign files.</summary>
    private bool Remove(string path)
    {
        var target = Path.Combine(folder, path);
        for (var above = Path.GetDirectoryName(target)!; above.Length > folder.Length; above = Path.GetDirectoryName(above)!)
        {
            if (new DirectoryInfo(above).LinkTarget is not null) return false;
        }

        if (File.Exists(target)) File.Delete(target);
        return true;
    }

    private Dictionary<string, bool> Read()
    {
        var files = new Dictionary<string, bool>(StringComparer.Ordinal);
        if (!File.Exists(_list)) return files;
        foreach (var words in File.ReadLines(_list).Select(line => line.Split(' ', 2)))
        {
            if (words is [Named or Unnamed, var path] && InsidePath.TryParse(path, out _)) files[path] = words[0] == Named;
        }

        return files;
    }

    private void Write(Dictionary<string, bool> files) => AtomicFile.Write(
        _list,
        System.Text.Encoding.UTF8.GetBytes(string.Concat(files.OrderBy(file => file.Key, StringComparer.Ordinal)
            .Select(file => $"{(file.Value ? Named : Unnamed)} {file.Key}\n"))),
        Mode);
}
