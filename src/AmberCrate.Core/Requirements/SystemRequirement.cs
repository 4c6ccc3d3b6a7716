namespace AmberCrate.Core.Requirements;

/// <summary>One thing that a release expects the system to have, and the packages that bring it.</summary>
public sealed record SystemRequirement
{
    /// <summary>What kind of thing it is.</summary>
    public required RequirementKind Kind { get; init; }

    /// <summary>Its name; what it may be depends on the kind.</summary>
    public required string Name { get; init; }

    /// <summary>For a module: the interpreter, such as <c>python3</c>; null for everything else.</summary>
    public string? Of { get; init; }

    /// <summary>For an interpreter: the least version, numbers joined by dots; null for any.</summary>
    public string? Least { get; init; }

    /// <summary>For a library: the versions of symbols that it must have, such as <c>GLIBC_2.38</c>.</summary>
    public IReadOnlyList<string> Symbols { get; init; } = [];

    /// <summary>The packages of Debian and its relatives that bring it, the first that suits.</summary>
    public IReadOnlyList<SystemPackage> Deb { get; init; } = [];

    /// <summary>The packages of systems with rpm that bring it, the first that suits.</summary>
    public IReadOnlyList<SystemPackage> Rpm { get; init; } = [];

    /// <summary>The packages of systems with pacman that bring it, the first that suits.</summary>
    public IReadOnlyList<SystemPackage> Pacman { get; init; } = [];

    /// <summary>It in words, without an article: <c>libgauze.so.2 with GAUZE_2.1</c>, <c>the python3 module yaml</c>.</summary>
    public string Words => Kind switch
    {
        RequirementKind.Library => Symbols.Count == 0 ? Name : $"{Name} with {string.Join(" and ", Symbols)}",
        RequirementKind.Program => $"the program {Name}",
        RequirementKind.Interpreter => Least is null ? Name : $"{Name} {Least} or newer",
        RequirementKind.Module => $"the {Of} module {Name}",
        RequirementKind.Typelib => $"the typelib {Name}",
        RequirementKind.File => Name,
        RequirementKind.Package => $"the package {Name}",
    };

    /// <summary>The packages that bring it on a system of a family.</summary>
    public IReadOnlyList<SystemPackage> PackagesFor(PackageFamily family) => family switch
    {
        PackageFamily.Deb => Deb,
        PackageFamily.Rpm => Rpm,
        PackageFamily.Pacman => Pacman,
    };

    /// <summary>What the name must be, by kind; null where it is that.</summary>
    public string? Fault => Kind switch
    {
        RequirementKind.Library when !IsPlain(Name, "+-._") => "the name of a shared library, such as libgauze.so.2",
        RequirementKind.Program when !IsPlain(Name, "+-._") => "the name of a program, such as gauze-view",
        RequirementKind.Interpreter when !IsPlain(Name.Split('/')[^1], "+-._") || (Name.Contains('/') && !IsPath(Name)) =>
            "the name or the path of an interpreter, such as python3 or /usr/bin/python3",
        RequirementKind.Module when !IsPlain(Name, "._:") => "the name of a module, such as yaml",
        RequirementKind.Typelib when !IsPlain(Name, "-._") => "the name of a typelib, such as Gauze-2.0",
        RequirementKind.File when !IsPath(Name) => "an absolute path without . and .., such as /usr/share/gauze",
        RequirementKind.Package when !SystemPackage.IsName(Name) => SystemPackage.Expected,
        _ => null,
    };

    /// <summary>Whether a text can be the least version of an interpreter: up to four numbers joined by dots.</summary>
    public static bool IsLeast(string text) => text.Split('.') is { Length: <= 4 } parts
        && parts.All(part => part.Length is > 0 and < 9 && part.All(char.IsAsciiDigit));

    /// <summary>Whether another one is the same except for the packages that bring it.</summary>
    public bool IsSame(SystemRequirement other) => (Kind, Name, Of, Least) == (other.Kind, other.Name, other.Of, other.Least)
        && Symbols.SequenceEqual(other.Symbols);

    /// <inheritdoc/>
    public bool Equals(SystemRequirement? other) => other is not null && IsSame(other) && Deb.SequenceEqual(other.Deb)
        && Rpm.SequenceEqual(other.Rpm) && Pacman.SequenceEqual(other.Pacman);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Kind, Name, Of, Symbols.Count);

    private static bool IsPlain(string text, string beside) => text.Length is > 0 and <= 200
        && (char.IsAsciiLetterOrDigit(text[0]) || text[0] == '_')
        && text.All(letter => char.IsAsciiLetterOrDigit(letter) || beside.Contains(letter, StringComparison.Ordinal));

    private static bool IsPath(string text) => text.Length is > 1 and <= 1000 && text[0] == '/'
        && !text.Any(char.IsControl) && text[1..].Split('/').All(part => part is not ("" or "." or ".."));
}
