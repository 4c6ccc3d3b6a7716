using System.Text;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Observing;

/// <summary>
/// Tells without starting it whether a program can start: whether its loader or interpreter is there, and every shared
/// library that it asks for. Where a script sets its own search paths, only the script's interpreter is looked at.
/// </summary>
/// <param name="root">The root of the system.</param>
/// <param name="searchPath">The value of PATH.</param>
/// <param name="packages">Says which package would bring a library.</param>
public sealed class ProgramCheck(string root, string searchPath, SystemPackages packages)
{
    /// <summary>Finds what only works as a part of the system.</summary>
    internal SystemParts Parts { get; } = new(root);

    private const int MostDepth = 20, MostScriptLine = 512, MostModules = 2000;

    private readonly SystemLibraries _libraries = new(root);

    /// <summary>What a program lacks, in words; empty if nothing is seen to be missing.</summary>
    /// <param name="name">The program for people.</param>
    /// <param name="path">Where it is; links are followed.</param>
    public IEnumerable<string> Faults(string name, string path)
    {
        var file = new FileInfo(path).ResolveLinkTarget(returnFinalTarget: true)?.FullName ?? path;
        if (LauncherFile.Read(file) is { } launcher)
        {
            var app = Path.GetDirectoryName(Path.GetDirectoryName(file))!;
            var folders = LauncherFile.FindLenders(app).Select(lender => lender.Folder).Prepend(app)
                .SelectMany(one => LauncherFile.FoldersLent(one, OwnFolderKind.Libraries));
            var faults = Faults(name, Path.Combine(app, launcher.Program.Text), [.. folders]);
            return launcher.Mapped.Count > 0 && !IsThere("bwrap")
                ? faults.Append($"{name} is started by bwrap, which this machine lacks")
                : faults;
        }

        return Faults(name, file, []);
    }

    private IEnumerable<string> Faults(string name, string path, IReadOnlyList<string> libraries)
    {
        var file = new FileInfo(path).ResolveLinkTarget(returnFinalTarget: true)?.FullName ?? path;
        if (Interpreter(file) is { } interpreter)
        {
            if (!IsThere(interpreter)) yield return $"{name} is a script for {interpreter}, which this machine lacks";
            yield break;
        }

        if (ElfFile.Read(file) is not { } elf) yield break;
        if (elf.Interpreter is { } loader && !File.Exists(InRoot(loader)))
            yield return $"{name} needs the loader {loader}, which this machine lacks";
        var missing = new SortedSet<string>(StringComparer.Ordinal);
        Search(elf, file, libraries, [], missing);
        foreach (var library in missing)
            yield return $"{name} needs {library}, which this machine "
                + $"lacks{(packages.ProviderOf(library) is { } package
                    ? $"; the system's package {package} has it"
                    : $"; search the system's packages for {library}")}";
    }

    /// <summary>
    /// The paths of the system that a program or its modules name and that lie with the app instead, so that it may not find
    /// them; in order, without repetition.
    /// </summary>
    /// <param name="path">The program or script; links are followed.</param>
    /// <param name="shelfFolder">The folder of its version.</param>
    public IEnumerable<string> Displaced(string path, string shelfFolder)
    {
        var file = new FileInfo(path).ResolveLinkTarget(returnFinalTarget: true)?.FullName ?? path;
        IEnumerable<string> modules = [];
        IReadOnlyList<InsidePath> mapped = [];
        if (LauncherFile.Read(file) is { } launcher)
        {
            (file, mapped) = (Path.Combine(shelfFolder, launcher.Program.Text), launcher.Mapped);
            modules = launcher.Folders.Where(one => one.Kind is OwnFolderKind.Python or OwnFolderKind.Perl)
                .SelectMany(one => one.Paths.SelectMany(folder => ModulesIn(Path.Combine(shelfFolder, folder.Text))))
                .Concat(LauncherFile.FoldersLent(shelfFolder, OwnFolderKind.Libraries).Where(Directory.Exists)
                    .SelectMany(folder => Directory.EnumerateFiles(folder, "*.so*").Order(StringComparer.Ordinal)));
        }

        if (Interpreter(file) is null && ElfFile.Read(file) is null) return [];
        return modules.Prepend(file).Take(MostModules).SelectMany(NamedPaths.Find).Distinct()
            .SelectMany(named => MappedPath.IsAny(named) ? OwnFoldersIn(shelfFolder, named) : [named]).Distinct()
            .Where(named => !Path.Exists(InRoot(named)) && LiesWith(named, shelfFolder)
                && !mapped.Any(path => $"{named}/".StartsWith($"/{path}/", StringComparison.Ordinal)));
    }

    /// <summary>The folders of the app that the paths of a pattern can lead to.</summary>
    private static IEnumerable<string> OwnFoldersIn(string shelfFolder, string any)
    {
        var top = MappedPath.FolderOf(any);
        var folder = Path.Combine(shelfFolder, top.TrimStart('/'));
        return Directory.Exists(folder)
            ? Directory.EnumerateDirectories(folder).Order(StringComparer.Ordinal)
                .Select(own => $"{top}/{Path.GetFileName(own)}").Where(MappedPath.IsOwnFolder)
            : [];
    }

    private static IEnumerable<string> ModulesIn(string folder) => !Directory.Exists(folder) ? []
        : Directory.EnumerateFiles(folder, "*.p?", SearchOption.AllDirectories).Order(StringComparer.Ordinal);

    /// <summary>Whether a path of the system is in a folder, whole or without its leading folders.</summary>
    private static bool LiesWith(string named, string folder)
    {
        var parts = named.Split('/', StringSplitOptions.RemoveEmptyEntries);
        return Enumerable.Range(0, parts.Length - 1).Any(leftOut => Path.Exists(Path.Combine([folder, .. parts[leftOut..]])));
    }

    /// <summary>
    /// Goes through what a file asks for; what lies with the app is gone through in its turn, what is the system's is taken to be
    /// whole.
    /// </summary>
    private void Search(
        ElfFile elf, string file, IReadOnlyList<string> inherited, HashSet<string> seen, SortedSet<string> missing)
    {
        var own = elf.SearchPaths.Select(path => Expanded(path, file)).ToList();
        List<string> folders = [.. own, .. inherited];
        foreach (var library in elf.Needed.Where(library => seen.Add(library) && seen.Count < MostDepth * MostDepth))
        {
            if (library.Contains('/', StringComparison.Ordinal))
            {
                if (!File.Exists(InRoot(library))) missing.Add(library);
            }
            else if (folders.Select(folder => Path.Combine(folder, library))
                .FirstOrDefault(path => Fits(path, elf)) is { } beside)
            {
                Search(ElfFile.Read(beside)!, beside, folders, seen, missing);
            }
            else if (!_libraries.Find(library).Any(path => Fits(path, elf)))
            {
                missing.Add(library);
            }
        }
    }

    private static bool Fits(string path, ElfFile asking) =>
        File.Exists(path) && ElfFile.Read(path) is { } library && library.Is64 == asking.Is64
            && library.Machine == asking.Machine;

    private static string Expanded(string path, string file)
    {
        var folder = Path.GetDirectoryName(file)!;
        return path.Replace("${ORIGIN}", folder, StringComparison.Ordinal).Replace("$ORIGIN", folder, StringComparison.Ordinal)
            .Replace("${LIB}", "lib", StringComparison.Ordinal).Replace("$LIB", "lib", StringComparison.Ordinal);
    }

    /// <summary>
    /// The interpreter that the first line of a script names, with env(1) looked through; null where it is no script.
    /// </summary>
    private static string? Interpreter(string file)
    {
        var start = new byte[MostScriptLine];
        int length;
        try
        {
            using var stream = File.OpenRead(file);
            length = stream.ReadAtLeast(start, MostScriptLine, throwOnEndOfStream: false);
        }
        catch (Exception unreadable) when (unreadable is IOException or UnauthorizedAccessException)
        {
            return null;
        }

        return ScriptReader.InterpreterOf(Encoding.UTF8.GetString(start, 0, length));
    }

    private bool IsThere(string program) => program.Contains('/', StringComparison.Ordinal)
        ? File.Exists(InRoot(program))
        : searchPath.Split(':', StringSplitOptions.RemoveEmptyEntries)
            .Any(folder => File.Exists(InRoot(Path.Combine(folder, program))));

    private string InRoot(string path) => path.StartsWith('/') ? Path.Combine(root, path[1..]) : path;
}
