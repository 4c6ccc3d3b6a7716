using AmberCrate.Core.Cards;
using AmberCrate.Core.Requirements;

namespace AmberCrate.Core.Drafting;

/// <summary>
/// Works out what a package expects the system to have: from its programs, libraries and scripts, and from what its own
/// metadata say that it depends on.
/// </summary>
/// <param name="contents">The package.</param>
internal sealed class RequirementDrafter(PackageContents contents)
{
    private const string CLibrary = "libc.so.6", CSeries = "GLIBC_";

    /// <summary>The libraries that come with the C library, and have its versions.</summary>
    private static readonly HashSet<string> WithC = new(
        ["libm.so.6", "libdl.so.2", "libpthread.so.0", "librt.so.1", "libresolv.so.2", "libutil.so.1", "libmvec.so.1",
            "libanl.so.1", "libBrokenLocale.so.1"], StringComparer.Ordinal);

    /// <summary>Packages that only the scripts of Debian packages need, which are not run here.</summary>
    private static readonly HashSet<string> ForItsScripts = new(
        ["debconf", "debconf-2.0", "cdebconf", "dpkg", "adduser", "ucf", "init-system-helpers", "sysvinit-utils",
            "install-info", "base-files", "bash", "dash"], StringComparer.Ordinal);

    private readonly List<DebianDependency> _depends = [.. contents.Dependencies];

    private readonly HashSet<DebianDependency> _explained = [];

    /// <summary>Works it out; null where the file was not looked into, so that nothing is known.</summary>
    public IReadOnlyList<SystemRequirement>? Draft()
    {
        if (contents.Format is ArtifactFormat.AppImage or ArtifactFormat.Installer or ArtifactFormat.File) return null;
        var found = new List<SystemRequirement>();
        found.AddRange(Libraries().Select(WithPackages));
        var imports = new ScriptImports(contents);
        found.AddRange(Interpreters().Select(WithPackages));
        found.AddRange(imports.Outside.Select(outside => WithPackages(new SystemRequirement
        {
            Kind = RequirementKind.Module, Name = outside.Module, Of = outside.Interpreter,
        })));
        found.AddRange(imports.Reached.SelectMany(script => script.Typelibs).Distinct().Order(StringComparer.Ordinal)
            .Select(typelib => WithPackages(new SystemRequirement { Kind = RequirementKind.Typelib, Name = typelib })));
        var packages = Packages(isLibraryOpen: found.Exists(IsOpen)).ToList();
        return [.. found.Where(requirement => requirement.Fault is null).Select(
            requirement => IsOpen(requirement) ? WithLikelyPackage(requirement, packages) : requirement), .. packages];

        static bool IsOpen(SystemRequirement requirement) =>
            requirement is { Kind: RequirementKind.Library, Deb.Count: 0, Name: not CLibrary };
    }

    /// <summary>
    /// A library with the package of those that are left whose name begins most like its own. It may be the wrong one, but it
    /// is one
    /// that the package depends on, and nobody guesses at others.
    /// </summary>
    private static SystemRequirement WithLikelyPackage(SystemRequirement library, List<SystemRequirement> packages)
    {
        const int leastInCommon = 4;
        var likely = packages.Where(package => PackageNames.IsOfLibrary(package.Name))
            .MaxBy(package => InCommon(package.Name, library.Name));
        return likely is null || InCommon(likely.Name, library.Name) < leastInCommon
            ? library
            : library with { Deb = likely.Deb };

        static int InCommon(string one, string other) =>
            one.Zip(other).TakeWhile(pair => pair.First == char.ToLowerInvariant(pair.Second)).Count();
    }

    /// <summary>
    /// The libraries that its programs ask for, and those of its own libraries that these load. What the package has itself is
    /// not the system's.
    /// </summary>
    private IEnumerable<SystemRequirement> Libraries()
    {
        var asked = new SortedDictionary<string, HashSet<string>>(StringComparer.Ordinal);
        foreach (var (library, elf) in new LoadedElves(contents).Outside)
        {
            if (!library.StartsWith("ld-", StringComparison.Ordinal)) Ask(library, elf);
        }

        return asked.Select(pair => new SystemRequirement
        {
            Kind = RequirementKind.Library, Name = pair.Key, Symbols = SymbolVersions.Highest(pair.Value),
        });

        void Ask(string library, PackedElf elf)
        {
            var name = WithC.Contains(library) ? CLibrary : library;
            if (!asked.TryGetValue(name, out var versions)) asked[name] = versions = new HashSet<string>(StringComparer.Ordinal);
            versions.UnionWith(elf.Versions.Where(version => version.Library == library
                    && (name != CLibrary || version.Version.StartsWith(CSeries, StringComparison.Ordinal)))
                .Select(version => version.Version));
        }
    }

    /// <summary>What its scripts are started by, except the shell of every system and what the package brings.</summary>
    private IEnumerable<SystemRequirement> Interpreters() => contents.Scripts
        .Where(script => script.Interpreter is not null && contents.Files.Any(file => file.IsProgram && file.Path == script.Path))
        .Select(script => script.Interpreter!).Distinct().Order(StringComparer.Ordinal)
        .Where(interpreter => interpreter != "/bin/sh"
            && contents.Files.All(file => !interpreter.EndsWith('/' + file.Path, StringComparison.Ordinal)))
        .Select(interpreter => new SystemRequirement { Kind = RequirementKind.Interpreter, Name = interpreter });

    /// <summary>The requirement with the packages that the package's own metadata name for it.</summary>
    private SystemRequirement WithPackages(SystemRequirement requirement)
    {
        var names = PackageNames.OfDebian(requirement).Select(Plain).ToHashSet(StringComparer.Ordinal);
        if (_depends.Find(depend => depend.Any.Any(package => names.Contains(Plain(package.Name)))) is not { } named)
            return requirement;
        _explained.Add(named);
        var least = requirement.Kind == RequirementKind.Interpreter
            ? named.Any.Select(package => package.Least).OfType<string>().FirstOrDefault()?.Split('~', '-')[0]
            : null;
        return requirement with
        {
            // An interpreter's version is looked for in its name, not in that of its package.
            Deb = [.. named.Any.Select(package => requirement.Kind == RequirementKind.Interpreter
                ? package with { Least = null } : package)],
            Least = least is not null && SystemRequirement.IsLeast(least) ? least : null,
        };
    }

    /// <summary>Names of packages are compared without what policies put between their parts.</summary>
    private static string Plain(string name) =>
        name.Replace("-", "", StringComparison.Ordinal).Replace(".", "", StringComparison.Ordinal);

    /// <summary>
    /// What the package depends on beside all this. Packages of libraries are named only as long as some library has no package:
    /// one of them brings it, and who installs it must know which.
    /// </summary>
    /// <param name="isLibraryOpen">Whether a library is required that no package was found for.</param>
    private IEnumerable<SystemRequirement> Packages(bool isLibraryOpen) => _depends
        .Where(depend => !_explained.Contains(depend) && !depend.Any.Any(package => ForItsScripts.Contains(package.Name))
            && !(!isLibraryOpen && contents.Elves.Count > 0 && PackageNames.IsOfLibrary(depend.Any[0].Name)))
        .Select(depend => new SystemRequirement
        {
            Kind = RequirementKind.Package, Name = depend.Any[0].Name, Deb = depend.Any,
        });
}
