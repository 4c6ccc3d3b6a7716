using System.Collections.Concurrent;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Observing;

/// <summary>
/// Says what of the requirements of releases a system lacks. Only files are looked at, nothing is started; what cannot be looked
/// at, such as the packages of a system whose database is not read here, does not count as lacking.
/// </summary>
/// <param name="root">The root of the system.</param>
/// <param name="searchPath">Where programs are beside the system's own folders, as in PATH; empty where an app is for all users.
/// </param>
/// <param name="packages">Says which packages the system can install.</param>
public sealed class SystemCheck(string root, string searchPath, SystemPackages packages)
{
    private const string UsualPath = "/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin:/usr/games:/usr/local/games";

    private readonly RootPath _root = new(root);
    private readonly SystemLibraries _libraries = new(root);
    private readonly ScriptModules _modules = new(root);
    private readonly ConcurrentDictionary<(SystemRequirement Requirement, string Architecture), SystemLack?> _known = new();
    private readonly Lazy<PackageFamilyRow?> _family = new(() => FindFamily(root));

    /// <summary>The installed packages with their versions, by their names without the mark of 64-bit times.</summary>
    private readonly Lazy<Dictionary<string, string?>> _installed = new(() =>
    {
        var found = new Dictionary<string, string?>(StringComparer.Ordinal);
        foreach (var (name, version) in new DpkgStatus(root).ReadInstalled())
        {
            if (version is not null || !found.ContainsKey(PackageNames.WithoutTimeMark(name)))
                found[PackageNames.WithoutTimeMark(name)] = version;
        }

        return found;
    });

    /// <summary>The family of the system; null where it is none of those that are known.</summary>
    public PackageFamilyRow? Family => _family.Value;

    /// <summary>What of some requirements is lacking, in their order.</summary>
    /// <param name="requirements">The requirements.</param>
    /// <param name="platform">What the artifact is for.</param>
    /// <returns>Where all libraries are there, packages of libraries do not count: other packages may bring the same.</returns>
    public IReadOnlyList<SystemLack> FindLacks(IReadOnlyList<SystemRequirement> requirements, Platform platform)
    {
        var lacks = requirements.Select(requirement => FindLack(requirement, platform)).OfType<SystemLack>().ToList();
        if (requirements.Any(requirement => requirement.Kind == RequirementKind.Library)
            && !lacks.Exists(lack => lack.Requirement.Kind == RequirementKind.Library))
            lacks.RemoveAll(lack => lack.Requirement.Kind == RequirementKind.Package
                && PackageNames.IsOfLibrary(lack.Requirement.Name));
        return lacks;
    }

    /// <summary>The line to paste that installs what is lacking; null without a known package.</summary>
    /// <param name="lacks">What is lacking.</param>
    public string? ComposeInstallLine(IEnumerable<SystemLack> lacks) => Family is not { } family ? null
        : InstallLine.Compose(
            lacks,
            family.Installers.Select(one => ((string, string)?)one)
                .FirstOrDefault(one => _root.Find($"/usr/bin/{one!.Value.Item1}") is not null),
            Environment.IsPrivilegedProcess);

    private static PackageFamilyRow? FindFamily(string root) => PackageFamilyRow.All.FirstOrDefault(
        family => family.Databases.Any(database => Path.Exists(Path.Combine(root, database))));

    private SystemLack? FindLack(SystemRequirement requirement, Platform platform) => _known.GetOrAdd(
        (requirement, platform.Architecture), _ => Look(requirement, platform));

    private SystemLack? Look(SystemRequirement requirement, Platform platform)
    {
        if (Found(requirement, platform) is not { } state)
        {
            // A library that is there can still be older than what it was linked with; its package's version shows it.
            return OlderPackage(requirement) is { } older
                ? new SystemLack(requirement, $"this system's {older} is older", null)
                : null;
        }

        return state.Length > 0
            ? new SystemLack(requirement, state, null)
            : new SystemLack(requirement, null, PackageFor(requirement));
    }

    /// <summary>The fault: empty if the thing is missing, words if it is too old; null without a fault.</summary>
    private string? Found(SystemRequirement requirement, Platform platform) => requirement.Kind switch
    {
        RequirementKind.Library => Library(requirement, platform),
        RequirementKind.Program => IsOnPath(requirement.Name) ? null : "",
        RequirementKind.Interpreter => Interpreter(requirement),
        RequirementKind.Module => _modules.Has(requirement.Of!, requirement.Name) ? null : "",
        RequirementKind.Typelib => HasTypelib(requirement.Name) ? null : "",
        RequirementKind.File => _root.Find(requirement.Name) is not null ? null : "",
        RequirementKind.Package => HasPackage(requirement) ? null : "",
    };

    private string? Library(SystemRequirement requirement, Platform platform)
    {
        var machine = ProcessorArchitecture.Named(platform.Architecture)?.ElfMachine;
        var (isThere, missing) = (false, (string?)null);
        foreach (var path in _libraries.Find(requirement.Name))
        {
            if (ElfFile.ReadMachine(path) is not { } there || (machine is not null && there != machine)) continue;
            if (requirement.Symbols.Count == 0) return null;
            if (ElfFile.ReadWithVersions(path) is not { } library) continue;
            missing = requirement.Symbols.FirstOrDefault(version => !library.DefinedVersions.Contains(version));
            if (missing is null) return null;
            isThere = true;
        }

        return isThere ? $"this system has an older one, without {missing}" : "";
    }

    private string? Interpreter(SystemRequirement requirement)
    {
        var path = requirement.Name.StartsWith('/') ? _root.Find(requirement.Name) : OnPath(requirement.Name);
        if (path is null) return "";
        if (requirement.Least is not { } least || VersionIn(Path.GetFileName(path)) is not { } there) return null;
        var needed = least.Contains('.', StringComparison.Ordinal) ? least : least + ".0";
        return !Version.TryParse(needed, out var lowest) || there >= lowest ? null : $"this system has {there}";
    }

    /// <summary>The version at the end of a program's name, such as 3.11 of python3.11; null where there is none.</summary>
    private static Version? VersionIn(string name)
    {
        var digits = name[name.TrimEnd("0123456789.".ToCharArray()).Length..].Trim('.');
        return digits.Contains('.', StringComparison.Ordinal) && Version.TryParse(digits, out var version) ? version : null;
    }

    private bool IsOnPath(string program) => OnPath(program) is not null;

    /// <summary>A program of the system, or one that only this user has: what runs from a timer has another PATH.</summary>
    private string? OnPath(string program) => $"{UsualPath}:{(root == "/" ? searchPath : "")}"
        .Split(':', StringSplitOptions.RemoveEmptyEntries)
        .Where(folder => folder.StartsWith('/'))
        .Select(folder => _root.Find($"{folder.TrimEnd('/')}/{program}"))
        .FirstOrDefault(path => path is not null && File.Exists(path));

    private bool HasTypelib(string name)
    {
        var pattern = name.Contains('-', StringComparison.Ordinal) ? $"{name}.typelib" : $"{name}-*.typelib";
        return _libraries.LibraryFolders.Select(folder => Path.Combine(folder, "girepository-1.0"))
            .Any(folder => Directory.Exists(folder) && Directory.EnumerateFiles(folder, pattern).Any());
    }

    /// <summary>Whether one of the packages is installed; true too if the system has no list of them.</summary>
    private bool HasPackage(SystemRequirement requirement) => Family?.Family != PackageFamily.Deb || requirement.Deb.Count == 0
        || _installed.Value.Count == 0 || requirement.Deb.Any(
            package => _installed.Value.ContainsKey(PackageNames.WithoutTimeMark(package.Name)));

    private string? OlderPackage(SystemRequirement requirement)
    {
        if (Family?.Family != PackageFamily.Deb || requirement.Deb.All(package => package.Least is null)) return null;
        var there = requirement.Deb.Where(package => VersionOf(package) is not null).ToList();
        return there.Count > 0 && there.TrueForAll(package => package.Least is { } least
                && DebianVersionOrder.Compare(VersionOf(package)!, least) < 0)
            ? $"{there[0].Name} {VersionOf(there[0])}"
            : null;

        string? VersionOf(SystemPackage package) =>
            _installed.Value.GetValueOrDefault(PackageNames.WithoutTimeMark(package.Name));
    }

    /// <summary>The package of this system that would bring it; null without a known one.</summary>
    private string? PackageFor(SystemRequirement requirement)
    {
        if (Family is not { } family) return null;
        var named = requirement.PackagesFor(family.Family).Select(package => package.Name).ToList();
        return family.Family switch
        {
            PackageFamily.Deb => packages.FirstOffered([.. named, .. PackageNames.OfDebian(requirement)])
                ?? (packages.KnowsOffered ? null : named.FirstOrDefault()),
            PackageFamily.Rpm => named.FirstOrDefault() ?? PackageNames.RpmCapability(requirement),
            PackageFamily.Pacman => named.FirstOrDefault(),
        };
    }
}
