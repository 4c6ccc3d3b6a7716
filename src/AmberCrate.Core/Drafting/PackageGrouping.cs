using AmberCrate.Core.Requirements;

namespace AmberCrate.Core.Drafting;

/// <summary>
/// Finds out which Debian packages make one app together: a program with the packages that it depends on, and that are no apps
/// themselves. Everything else is an app of its own.
/// </summary>
public sealed class PackageGrouping
{
    private static readonly string[] CommandFolders = ["usr/bin/", "usr/games/", "bin/", "usr/sbin/", "sbin/"];

    private readonly IReadOnlyList<DraftedFile> _files;
    private readonly HashSet<DraftedFile> _apps;
    private readonly HashSet<DraftedFile> _taken = new(ReferenceEqualityComparer.Instance);

    private PackageGrouping(IReadOnlyList<DraftedFile> files)
    {
        _files = files;
        _apps = files.Where(IsApp).ToHashSet<DraftedFile>(ReferenceEqualityComparer.Instance);
    }

    /// <summary>Groups files. What two apps depend on goes with each of them.</summary>
    /// <param name="files">The files, as they were named.</param>
    public static IReadOnlyList<PackageGroup> Group(IReadOnlyList<DraftedFile> files) => new PackageGrouping(files).Group();

    private List<PackageGroup> Group()
    {
        var groups = _files.Where(_apps.Contains).Select(Closure).ToList();
        foreach (var file in _files.Where(file => !_taken.Contains(file)).ToList()) JoinOne(groups, file);

        // What nothing depends on comes first; of packages that depend on each other in a circle, the first that was named.
        var needed = _files.Where(file => !_taken.Contains(file)).SelectMany(file => NeedsOf(file).Where(other => other != file))
            .ToHashSet<DraftedFile>(ReferenceEqualityComparer.Instance);
        foreach (var file in _files.OrderBy(needed.Contains))
        {
            if (!_taken.Contains(file)) groups.Add(Closure(file));
        }

        return [.. groups.OrderBy(group => _files.Index().First(one => ReferenceEquals(one.Item, group[0])).Index)
            .Select(group => new PackageGroup(group))];
    }

    /// <summary>A file with all that it depends on, directly or not, except other apps.</summary>
    private List<DraftedFile> Closure(DraftedFile root)
    {
        List<DraftedFile> group = [root];
        for (var at = 0; at < group.Count; at++)
        {
            _taken.Add(group[at]);
            group.AddRange(NeedsOf(group[at]).Where(other => !_apps.Contains(other)
                && !group.Exists(known => known.Contents.PackageName == other.Contents.PackageName)));
        }

        return group;
    }

    /// <summary>
    /// A package without programs that depends on one of the apps, such as its plugins, becomes part of that app.
    /// </summary>
    private void JoinOne(List<List<DraftedFile>> groups, DraftedFile file)
    {
        if (file.Contents.PackageName is null || HasCommands(file) || IsForDevelopers(file)) return;
        var needs = NeedsOf(file).ToList();
        if (groups.Where(group => needs.Exists(need => ReferenceEquals(need, group[0]))).ToList() is not [var only]
            || only.Exists(known => known.Contents.PackageName == file.Contents.PackageName)) return;
        only.Add(file);
        _taken.Add(file);
    }

    /// <summary>The files that a package depends on. Of several versions of one package, it takes its own version.</summary>
    private IEnumerable<DraftedFile> NeedsOf(DraftedFile file) => file.Contents.Dependencies
        .Select(depend => depend.Any.Select(package => Find(file, package)).FirstOrDefault(found => found is not null))
        .OfType<DraftedFile>();

    private DraftedFile? Find(DraftedFile from, SystemPackage wanted) => _files
        .Where(file => file.Contents.PackageName is not null && !ReferenceEquals(file, from)
            && (file.Contents.PackageName == wanted.Name || Provides(file, wanted.Name)) && FitsTogether(file, from)
            && (wanted.Least is null || DebianVersionOrder.Compare(VersionOf(file), wanted.Least) >= 0))
        .OrderByDescending(file => VersionOf(file) == VersionOf(from))
        .ThenByDescending(VersionOf, Comparer<string>.Create(DebianVersionOrder.Compare))
        .FirstOrDefault();

    private static bool FitsTogether(DraftedFile one, DraftedFile other) => one.Contents.Platform is not { } platform
        || other.Contents.Platform is null || other.Contents.Platform == platform;

    private static bool Provides(DraftedFile file, string name) => DebianDependency
        .Parse(file.Contents.Control.GetValueOrDefault("Provides")).Any(one => one.Any.Any(package => package.Name == name));

    private static string VersionOf(DraftedFile file) => file.Contents.Control.GetValueOrDefault("Version") ?? "";

    /// <summary>Whether a package has a menu entry for a program of its own.</summary>
    private static bool IsApp(DraftedFile file) => file.Contents.PackageName is null || file.Contents.DesktopEntries
        .Select(entry => ShippedEntry.Read(entry.Path, entry.Text))
        .Any(entry => entry is { IsShown: true, Program: { } program }
            && file.Contents.Files.Any(one => one.IsProgram && one.Name == program[(program.LastIndexOf('/') + 1)..]));

    /// <summary>
    /// Whether a package is for those who build or document the app, by the sections of the Debian policy, 2.4.
    /// </summary>
    private static bool IsForDevelopers(DraftedFile file) =>
        file.Contents.Control.GetValueOrDefault("Section")?.Split('/')[^1] is "libdevel" or "devel" or "debug" or "doc";

    private static bool HasCommands(DraftedFile file) => file.Contents.Files.Any(IsCommand);

    /// <summary>Whether a file of a package is a program that users can type.</summary>
    /// <param name="file">The file.</param>
    internal static bool IsCommand(PackedFile file) => file.IsProgram
        && CommandFolders.Any(folder => file.Path.StartsWith(folder, StringComparison.Ordinal));
}
