namespace AmberCrate.Engine.Host;

/// <summary>
/// Paths of a system whose root may be a folder: a link in it that begins with / leads to a place below the folder, as it will
/// once that system runs.
/// </summary>
/// <param name="root">The folder that counts as <c>/</c>.</param>
internal sealed class RootPath(string root)
{
    private const int MostLinks = 40;

    /// <summary>Where a path of the system is from here, with links followed; null where there is nothing.</summary>
    /// <param name="path">An absolute path of the system.</param>
    public string? Find(string path)
    {
        if (root == "/") return Path.Exists(path) ? Resolved(path) : null;
        var (left, here, links) = (new Stack<string>(Parts(path).Reverse()), new List<string>(), 0);
        while (left.TryPop(out var part))
        {
            if (part == "..")
            {
                if (here.Count > 0) here.RemoveAt(here.Count - 1);
                continue;
            }

            var inside = Path.Combine([root, .. here, part]);
            if (new FileInfo(inside).LinkTarget is not { } target)
            {
                here.Add(part);
                continue;
            }

            if (++links > MostLinks) return null;
            if (target.StartsWith('/')) here.Clear();
            foreach (var next in Parts(target).Reverse()) left.Push(next);
        }

        var found = Path.Combine([root, .. here]);
        return Path.Exists(found) ? found : null;
    }

    private static string Resolved(string path) =>
        new FileInfo(path).ResolveLinkTarget(returnFinalTarget: true)?.FullName ?? path;

    private static IEnumerable<string> Parts(string path) =>
        path.Split('/', StringSplitOptions.RemoveEmptyEntries).Where(part => part != ".");
}
