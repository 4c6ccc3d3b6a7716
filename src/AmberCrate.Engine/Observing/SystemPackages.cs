using System.Text;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Observing;

/// <summary>Asks the system's own package database, dpkg's, what belongs to it. Where there is none, nothing is
/// reported.</summary>
/// <param name="root">The root of the system.</param>
public sealed class SystemPackages(string root)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);

    private readonly Dictionary<string, string?> _known = new(StringComparer.Ordinal);

    private const string Installed = "var/lib/dpkg/info", Offered = "var/lib/apt/lists";

    /// <summary>The package that a file belongs to; null where it belongs to none, or that is unknown.</summary>
    /// <param name="path">The absolute path of the file, as it is seen from here or from inside the root.</param>
    public string? OwnerOf(string path)
    {
        var inside = path.StartsWith(root + "/", StringComparison.Ordinal) ? path[root.Length..] : path;

        // Where /bin is a link to /usr/bin, older packages still list their files without /usr.
        string[] names = inside.StartsWith("/usr/", StringComparison.Ordinal) ? [inside, inside["/usr".Length..]] : [inside];
        return Files(Installed, "*.list").Where(list => Lines(list).Any(names.Contains))
            .Select(list => Path.GetFileNameWithoutExtension(list).Split(':')[0])
            .FirstOrDefault();
    }

    /// <summary>The package that would bring a shared library; null where it is unknown.</summary>
    /// <param name="soname">The name that programs load it by, such as <c>libgauze.so.2</c>.</param>
    public string? ProviderOf(string soname)
    {
        lock (_known)
        {
            if (!_known.TryGetValue(soname, out var package)) _known[soname] = package = Find(PackageNames(soname));
            return package;
        }
    }

    private string? Find(List<string> names) => names.Count == 0 ? null : InLists(names) ?? InIndex(names);

    /// <summary>
    /// Looks into the index that the system's apt(8) keeps of its lists, which are compressed on most machines.
    /// </summary>
    private string? InIndex(List<string> names)
    {
        if (root != "/" || ProgramSearch.Trusted("apt-cache") is not { } program) return null;
        var found = SystemProgram.Ask(program, ["pkgnames", names[0]], Patience).Output.Split('\n')
            .ToHashSet(StringComparer.Ordinal);
        return names.Find(found.Contains);
    }

    private string? InLists(List<string> names)
    {
        var found = Files(Offered, "*_Packages").SelectMany(Lines)
            .Where(line => line.StartsWith("Package: ", StringComparison.Ordinal))
            .Select(line => line["Package: ".Length..])
            .Where(names.Contains)
            .ToHashSet(StringComparer.Ordinal);
        return names.Find(found.Contains);
    }

    /// <summary>
    /// The names that a package with a library has by the Debian policy, 8.1; those of the change to 64-bit times included.
    /// </summary>
    private static List<string> PackageNames(string soname)
    {
        var so = soname.IndexOf(".so", StringComparison.Ordinal);
        if (so < 1) return [];
        var (stem, version) = (soname[..so], soname[(so + 3)..].TrimStart('.'));
        var name = new StringBuilder(stem);
        if (version.Length > 0 && char.IsAsciiDigit(stem[^1])) name.Append('-');
        var package = name.Append(version).ToString().ToLowerInvariant().Replace('_', '-');
        return [package, $"{package}t64"];
    }

    private IEnumerable<string> Files(string folder, string pattern)
    {
        var path = Path.Combine(root, folder);
        return Directory.Exists(path) ? Directory.EnumerateFiles(path, pattern).Order(StringComparer.Ordinal) : [];
    }

    private static IEnumerable<string> Lines(string path)
    {
        try
        {
            return File.ReadLines(path);
        }
        catch (Exception unreadable) when (unreadable is IOException or UnauthorizedAccessException)
        {
            return [];
        }
    }
}
