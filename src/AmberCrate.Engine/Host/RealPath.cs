namespace AmberCrate.Engine.Host;

/// <summary>Follows links, as realpath(3) does.</summary>
internal static class RealPath
{
    /// <summary>A path with every link in it followed; null where it leads nowhere.</summary>
    public static string? Resolve(string path)
    {
        var here = "/";
        var left = new Stack<string>(path.Split('/', StringSplitOptions.RemoveEmptyEntries).Reverse());
        for (var steps = 0; left.TryPop(out var part); steps++)
        {
            const int Most = 1000;
            if (steps > Most) return null;
            if (part == ".") continue;
            if (part == "..")
            {
                here = Path.GetDirectoryName(here) ?? "/";
                continue;
            }

            var next = Path.Combine(here, part);
            if (new FileInfo(next).LinkTarget is not { } target)
            {
                if (!File.Exists(next) && !Directory.Exists(next)) return null;
                here = next;
                continue;
            }

            if (target.StartsWith('/')) here = "/";
            foreach (var piece in target.Split('/', StringSplitOptions.RemoveEmptyEntries).Reverse()) left.Push(piece);
        }

        return here;
    }
}
