using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Drafting;

/// <summary>Works out which folders of a package hold its programs' own files, if it was built for <c>/usr</c>.</summary>
/// <param name="contents">The package.</param>
internal sealed class OwnFolderDrafter(PackageContents contents)
{
    private const string SchemaEnding = ".gschema.xml", ShareFolder = "usr/share";

    /// <summary>What is placed outside the shelf: a package without other data needs no variable.</summary>
    private static readonly string[] Placed =
        ["applications", "icons", "pixmaps", "doc", "man", "mime", "metainfo", "fonts", "perl5"];

    /// <summary>The folders, by kind.</summary>
    public IReadOnlyList<OwnFolders> Draft()
    {
        var found = new List<OwnFolders>();
        Add(OwnFolderKind.Python, FoldersOf("python3", path => At(path, "/dist-packages/") ?? At(path, "/site-packages/")));
        Add(OwnFolderKind.Perl, contents.Scripts.Where(script => script.Path.EndsWith(".pm", StringComparison.Ordinal))
            .Select(script => At(script.Path, "/perl5/")).OfType<string>());
        Add(OwnFolderKind.Data, HasData() ? [ShareFolder] : []);
        Add(OwnFolderKind.Typelibs, contents.Files.Where(file => file.Name.EndsWith(".typelib", StringComparison.Ordinal))
            .Select(file => Folder(file.Path)));
        Add(OwnFolderKind.QtPlugins, contents.Elves.Select(
            elf => At(elf.Path, "/qt5/plugins/") ?? At(elf.Path, "/qt6/plugins/")).OfType<string>());
        Add(OwnFolderKind.Libraries, Libraries());
        return found;

        void Add(OwnFolderKind kind, IEnumerable<string> paths)
        {
            List<InsidePath> inside = [.. paths.Distinct().Order(StringComparer.Ordinal)
                .Select(path => InsidePath.TryParse(path, out var one) ? one : null).OfType<InsidePath>()
                .Where(path => !path.Text.Contains(':', StringComparison.Ordinal)).Take(10)];
            if (inside.Count > 0) found.Add(new OwnFolders(kind, inside));
        }
    }

    /// <summary>What its programs and the modules that they reach name by a path of the system, and the package has.</summary>
    public IReadOnlyList<InsidePath> FindMapped()
    {
        var files = contents.Files.Select(file => file.Path).ToList();
        var found = new LoadedElves(contents).Loaded.SelectMany(elf => elf.Named)
            .Concat(new ScriptImports(contents).Reached.SelectMany(script => script.Named))
            .Distinct().SelectMany(named => MappedPath.IsAny(named) ? OwnFoldersIn(MappedPath.FolderOf(named)) : [named])
            .Select(MappedPath.Find).OfType<InsidePath>().Distinct()
            .Where(path => files.Exists(file => file == path.Text || file.StartsWith(path.Text + "/", StringComparison.Ordinal)))
            .OrderBy(path => path.Text, StringComparer.Ordinal).Take(10).ToList();
        return [.. found.Where(path => !found.Exists(
            other => path.Text.StartsWith(other.Text + "/", StringComparison.Ordinal)))];
    }

    /// <summary>The package's own folders in a folder of the system.</summary>
    private IEnumerable<string> OwnFoldersIn(string top) => contents.Files.Select(file => "/" + file.Path)
        .Where(path => path.StartsWith(top + "/", StringComparison.Ordinal) && path.IndexOf('/', top.Length + 1) > 0)
        .Select(path => path[..path.IndexOf('/', top.Length + 1)]).Where(MappedPath.IsOwnFolder);

    /// <summary>The folders with settings schemas.</summary>
    public IReadOnlyList<InsidePath> FindSchemas() =>
    [
        .. contents.Files.Where(file => !file.IsLink && file.Name.EndsWith(SchemaEnding, StringComparison.Ordinal)
                && file.Path.EndsWith($"/share/glib-2.0/schemas/{file.Name}", StringComparison.Ordinal))
            .Select(file => Folder(file.Path)).Distinct()
            .Select(path => InsidePath.TryParse(path, out var one) ? one : null).OfType<InsidePath>(),
    ];

    private IEnumerable<string> FoldersOf(string language, Func<string, string?> folderOf) => contents.Scripts
        .Where(script => ScriptReader.LanguageOf(script.Interpreter?.Split('/')[^1], script.Path) == language)
        .Select(script => folderOf(script.Path)).OfType<string>();

    private bool HasData() => contents.Files.Any(file => file.Path.StartsWith(ShareFolder + "/", StringComparison.Ordinal)
        && file.Path.Split('/') is [_, _, var folder, _, ..] && !Placed.Contains(folder) && !MappedPath.IsUnread(folder));

    /// <summary>
    /// The folders of libraries that programs of the package ask for, and would not find: the paths that they have searched
    /// begin at the root of the system.
    /// </summary>
    private IEnumerable<string> Libraries() => contents.Files.Any(file => PackageGrouping.IsCommand(file))
        ? LibrariesOfPrograms()
        : LibrariesForOthers();

    /// <summary>A package without programs brings its libraries for others, in the folders of the system's loader.</summary>
    private IEnumerable<string> LibrariesForOthers() => contents.Elves
        .Where(elf => !elf.IsProgram && elf.Name.StartsWith("lib", StringComparison.Ordinal))
        .Select(elf => Folder(elf.Path))
        .Where(folder => folder is "usr/lib" or "lib" || (folder.StartsWith("usr/lib/", StringComparison.Ordinal)
            && folder.EndsWith("-linux-gnu", StringComparison.Ordinal)));

    private IEnumerable<string> LibrariesOfPrograms() =>
        from elf in contents.Elves
        where !elf.SearchPaths.Any(path => path.Contains("ORIGIN", StringComparison.Ordinal))
        from library in elf.Needed
        from file in contents.Files
        where file.Name == library
        select Folder(file.Path);

    /// <summary>A path up to the end of a folder that it goes through; null where it does not.</summary>
    private static string? At(string path, string folder) =>
        path.IndexOf(folder, StringComparison.Ordinal) is >= 0 and var at ? path[..(at + folder.Length - 1)] : null;

    private static string Folder(string path) => path.LastIndexOf('/') is > 0 and var at ? path[..at] : ".";
}
