namespace AmberCrate.Core.Requirements;

/// <summary>
/// Under which names the packages of a family bring what is required, by the rules that the families have for names.
/// </summary>
public static class PackageNames
{
    /// <summary>
    /// What rpm calls the thing that is required, so that its package is found without knowing its name; null where it has no
    /// such name. Source: rpm's dependency generators for ELF files, Perl and typelibs, and its dependencies on files.
    /// </summary>
    public static string? RpmCapability(SystemRequirement requirement) => requirement.Kind switch
    {
        RequirementKind.Library => $"{requirement.Name}()(64bit)",
        RequirementKind.Program => $"/usr/bin/{requirement.Name}",
        RequirementKind.Interpreter =>
            requirement.Name.StartsWith('/') ? requirement.Name : $"/usr/bin/{requirement.Name}",
        RequirementKind.Module => requirement.Of == "perl" ? $"perl({requirement.Name})" : null,
        RequirementKind.Typelib => requirement.Name.LastIndexOf('-') is > 0 and var at
            ? $"typelib({requirement.Name[..at]}) = {requirement.Name[(at + 1)..]}"
            : $"typelib({requirement.Name})",
        RequirementKind.File => requirement.Name,
        RequirementKind.Package => null,
    };

    /// <summary>Whether a Debian package has the name of one with a library, after the Debian policy, 8.1.</summary>
    public static bool IsOfLibrary(string package)
    {
        var name = package.EndsWith("t64", StringComparison.Ordinal) ? package[..^3] : package;
        return name.StartsWith("lib", StringComparison.Ordinal)
            && (char.IsAsciiDigit(name[^1]) || (name.Length > 4 && char.IsAsciiDigit(name[^2]) && char.IsAsciiLetter(name[^1])));
    }

    /// <summary>
    /// The name of a Debian package without the mark of 64-bit times (<c>t64</c>), which came between two releases without any
    /// other change: programs that were built against one release ask for the name of that release.
    /// </summary>
    public static string WithoutTimeMark(string package) => package.Replace("t64", "", StringComparison.Ordinal);

    /// <summary>The names that Debian's packages have by their policies; the system's lists say which of them there is.</summary>
    public static IReadOnlyList<string> OfDebian(SystemRequirement requirement) => requirement.Kind switch
    {
        RequirementKind.Module when requirement.Of == "python3" => [$"python3-{Lower(requirement.Name.Split('.')[0])}"],
        RequirementKind.Module when requirement.Of == "perl" =>
            [$"lib{Lower(requirement.Name.Replace("::", "-", StringComparison.Ordinal))}-perl"],
        RequirementKind.Typelib => [$"gir1.2-{Lower(requirement.Name)}"],
        RequirementKind.Interpreter or RequirementKind.Program => [Lower(requirement.Name.Split('/')[^1])],
        RequirementKind.Package => [requirement.Name],
        RequirementKind.Library => LibraryPackages(requirement.Name),
        RequirementKind.Module or RequirementKind.File => [],
    };

    /// <summary>
    /// The names that a package with a library has by the Debian policy, 8.1; with the endings of its two great changes: 64-bit
    /// times and the C++ library of GCC 5.
    /// </summary>
    private static IReadOnlyList<string> LibraryPackages(string soname)
    {
        var so = soname.IndexOf(".so", StringComparison.Ordinal);
        if (so < 1) return [];
        var (stem, version) = (soname[..so], soname[(so + 3)..].TrimStart('.'));
        var package = Lower(version.Length > 0 && char.IsAsciiDigit(stem[^1]) ? $"{stem}-{version}" : stem + version);
        return [package, $"{package}t64", $"{package}v5"];
    }

    private static string Lower(string text) => text.ToLowerInvariant().Replace('_', '-');
}
