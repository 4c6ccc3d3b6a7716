using AmberCrate.Core.Requirements;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Observing;

/// <summary>Asks the system's own package database, dpkg's, what belongs to it. Where there is none, nothing is
/// reported.</summary>
/// <param name="root">The root of the system.</param>
public sealed class SystemPackages(string root)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);

    private readonly Lazy<HashSet<string>> _offered = new(() => ReadOffered(root));

    /// <summary>The offered packages whose names have the mark of 64-bit times, by their names without it.</summary>
    private Dictionary<string, string> Renamed => field ??= _offered.Value
        .Where(name => PackageNames.WithoutTimeMark(name) != name)
        .DistinctBy(PackageNames.WithoutTimeMark).ToDictionary(PackageNames.WithoutTimeMark, StringComparer.Ordinal);

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
    public string? ProviderOf(string soname) =>
        FirstOffered(PackageNames.OfDebian(new SystemRequirement { Kind = RequirementKind.Library, Name = soname }));

    /// <summary>The first of some packages that the system's package manager knows of; null where it knows none.</summary>
    /// <param name="names">The names.</param>
    internal string? FirstOffered(IReadOnlyList<string> names) => names.FirstOrDefault(_offered.Value.Contains)
        ?? names.Select(name => Renamed.GetValueOrDefault(PackageNames.WithoutTimeMark(name)))
            .FirstOrDefault(name => name is not null);

    /// <summary>Whether there is a list of what the system's package manager can install.</summary>
    internal bool KnowsOffered => _offered.Value.Count > 0;

    /// <summary>
    /// The names in the lists of the system's apt(8); where these are compressed, as on most machines, in the index that it keeps
    /// of them.
    /// </summary>
    private static HashSet<string> ReadOffered(string root)
    {
        var folder = Path.Combine(root, Offered);
        var found = !Directory.Exists(folder) ? [] : Directory.EnumerateFiles(folder, "*_Packages").SelectMany(Lines)
            .Where(line => line.StartsWith("Package: ", StringComparison.Ordinal))
            .Select(line => line["Package: ".Length..]).ToHashSet(StringComparer.Ordinal);
        if (found.Count == 0 && root == "/" && ProgramSearch.Trusted("apt-cache") is { } program)
            found.UnionWith(SystemProgram.Ask(program, ["pkgnames"], Patience).Output
                .Split('\n', StringSplitOptions.RemoveEmptyEntries));
        return found;
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
