using System.Text;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Machine;

/// <summary>
/// Decides where an entry of an archive may go. It knows every entry seen so far, since what is harmless alone can
/// leave the folder together with a link that came before it.
/// </summary>
/// <param name="stripFolders">How many leading folders are left out.</param>
/// <param name="isWholeSystem">Whether the archive is made for the root of a system, so that absolute links mean what is in the
/// archive.</param>
/// <param name="before">What is in the folder already; null for nothing.</param>
public sealed class ArchiveEntryRules(int stripFolders, bool isWholeSystem = false, UnpackedPaths? before = null)
{
    private const int MostBytesOfName = 255;

    private readonly UnpackedPaths _there = before ?? new UnpackedPaths();

    /// <summary>Where an entry goes, with its leading folders stripped; null if nothing is left of its name.</summary>
    /// <exception cref="RefusedEntryException">The name is absolute, climbs, or leads through a link.</exception>
    public InsidePath? Place(string name)
    {
        if (name.StartsWith('/')) throw new RefusedEntryException($"an entry with an absolute name, \"{name}\"");
        var parts = name.Split('/').Where(part => part is not ("" or ".")).ToArray();
        if (parts.Contains("..")) throw new RefusedEntryException($"an entry that climbs out of its folder, \"{name}\"");
        if (parts.Length <= stripFolders) return null;
        if (!InsidePath.TryParse(string.Join('/', parts[stripFolders..]), out var path))
            throw new RefusedEntryException($"an entry whose name is not a path, \"{name}\"");
        if (path.Text.Split('/').Any(part => Encoding.UTF8.GetByteCount(part) > MostBytesOfName))
            throw new RefusedEntryException($"an entry with a name of more than {MostBytesOfName} bytes, \"{name[..60]}…\"");
        var around = path.Text;
        while (around.Contains('/', StringComparison.Ordinal))
        {
            around = around[..around.LastIndexOf('/')];
            if (_there.Links.Contains(around)) throw new RefusedEntryException($"an entry that leads through a link, \"{name}\"");
            if (_there.Files.Contains(around))
                throw new RefusedEntryException($"an entry below a file as if it were a folder, \"{name}\"");
        }

        return path;
    }

    /// <summary>Notes a file that goes to a path.</summary>
    /// <exception cref="RefusedEntryException">Something else already went there.</exception>
    public void AddFile(InsidePath path)
    {
        if (_there.Links.Contains(path.Text) || !_there.Files.Add(path.Text)) throw Twice(path);
    }

    /// <summary>Notes a folder that goes to a path; the same folder may come more than once.</summary>
    /// <exception cref="RefusedEntryException">A file or link already went there.</exception>
    public void AddFolder(InsidePath path)
    {
        if (_there.Links.Contains(path.Text) || _there.Files.Contains(path.Text)) throw Twice(path);
    }

    /// <summary>Notes a symbolic link that goes to a path.</summary>
    /// <returns>The target that the link is to have.</returns>
    /// <remarks>
    /// A target may climb only at its beginning. Climbing after a name could pass through another link and come out
    /// somewhere else than it reads, whereas this way every link leads inside on its own.
    /// </remarks>
    /// <exception cref="RefusedEntryException">The target is absolute or leaves, or something else already went
    /// there.</exception>
    public string AddLink(InsidePath path, string target)
    {
        if (isWholeSystem && target.StartsWith('/'))
            target = string.Concat(Enumerable.Repeat("../", path.Text.Count(c => c == '/')))
                + string.Join('/', target.Split('/').Where(part => part is not ("" or ".")));
        var parts = target.Split('/').Where(part => part is not ("" or ".")).ToList();
        var climbs = parts.TakeWhile(part => part == "..").Count();
        var leaves = target.StartsWith('/') || target.Length == 0 || target.Any(char.IsControl)
            || climbs > path.Text.Count(c => c == '/') || parts.Skip(climbs).Contains("..");
        if (leaves) throw new RefusedEntryException($"a link that leaves its folder, \"{path}\" to \"{target}\"");
        if (_there.Files.Contains(path.Text) || !_there.Links.Add(path.Text)) throw Twice(path);
        return target;
    }

    /// <summary>Finds the file that a hard link repeats.</summary>
    /// <exception cref="RefusedEntryException">The target is no file that came before.</exception>
    public InsidePath PlaceHardLinkTarget(InsidePath path, string target) =>
        Place(target) is { } file && _there.Files.Contains(file.Text) ? file : throw new RefusedEntryException(
            $"a hard link to something that is not a file of the archive, \"{path}\" to \"{target}\"");

    private static RefusedEntryException Twice(InsidePath path) => new($"two entries that go to the same place, \"{path}\"");
}
