using AmberCrate.Core.Formats;
using AmberCrate.Core.Requirements;
using static AmberCrate.Core.CardFiles.CardFormats;

namespace AmberCrate.Core.CardFiles;

/// <summary>The keys of something that the system must have.</summary>
internal static class RequirementKeys
{
    /// <summary>The key, in a card and in a release.</summary>
    public const string Name = "system";

    /// <summary>The keys.</summary>
    public static readonly KeyTable<SystemRequirement> Table = new(values => new SystemRequirement
    {
        Kind = Kind!.In(values), Name = What!.In(values), Of = Of!.In(values), Least = Least!.In(values),
        Symbols = Symbols!.In(values), Deb = Deb!.In(values), Rpm = Rpm!.In(values), Pacman = Pacman!.In(values),
    });

    private static readonly Key<SystemRequirement, RequirementKind> Kind = Table.Required(
        "kind", new ChoiceFormat<RequirementKind>(RequirementWords.Kinds), requirement => requirement.Kind, "what it is");

    private static readonly Key<SystemRequirement, string> What = Table.Required(
        "name", OneLine, requirement => requirement.Name,
        "its name: the soname of a library, a program on the path, an interpreter as a script's first line has it "
            + "(`/usr/bin/python3`) or on the path (`python3`), a module, a typelib with its version (`Gauze-2.0`), "
            + "the absolute path of a file or folder, a package");

    private static readonly Key<SystemRequirement, string?> Of = Table.Optional(
        "of", Names, requirement => requirement.Of, "for a module: the interpreter, `python3` or `perl`");

    private static readonly Key<SystemRequirement, string?> Least = Table.Optional(
        "least", Names, requirement => requirement.Least, "for an interpreter: the least version, such as `3.11`");

    private static readonly Key<SystemRequirement, IReadOnlyList<string>> Symbols = Table.Optional(
        "symbols", StringsThat(IsSymbols, "a version of symbols, such as GAUZE_2.1", Word), [],
        requirement => requirement.Symbols,
        "for a library: the versions of symbols that it must have, such as `GAUZE_2.1`");

    private static readonly Key<SystemRequirement, IReadOnlyList<SystemPackage>> Deb =
        Packages("deb", requirement => requirement.Deb, "Debian and its relatives");

    private static readonly Key<SystemRequirement, IReadOnlyList<SystemPackage>> Rpm =
        Packages("rpm", requirement => requirement.Rpm, "systems with rpm");

    private static readonly Key<SystemRequirement, IReadOnlyList<SystemPackage>> Pacman =
        Packages("pacman", requirement => requirement.Pacman, "systems with pacman");

    private static Key<SystemRequirement, IReadOnlyList<SystemPackage>> Packages(
        string name, Func<SystemRequirement, IReadOnlyList<SystemPackage>> get, string systems) => Table.Optional(
            name,
            new ParsedListFormat<SystemPackage>(
                SystemPackage.TryParse, SystemPackage.Expected, package => package.ToString(), Text, most: 20),
            [], get, $"the packages of {systems} that bring it, the first that suits");

    private static bool IsSymbols(string text) => text.Length > 0
        && text.All(letter => char.IsAsciiLetterOrDigit(letter) || letter is '_' or '.' or '-');
}
