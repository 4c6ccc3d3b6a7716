using AmberCrate.Core.Requirements;

namespace AmberCrate.Core.Drafting;

/// <summary>Compares what a card says that an app expects of the system with what its files show.</summary>
public static class RequirementCoverage
{
    /// <summary>
    /// What the files need and the card does not name, or names with too low a version. Packages are not compared: they are
    /// known from a package's metadata only, and whoever writes the card may know better.
    /// </summary>
    /// <param name="stated">What the card says.</param>
    /// <param name="found">What was read from the files.</param>
    public static IReadOnlyList<SystemRequirement> FindMissing(
        IReadOnlyList<SystemRequirement> stated, IReadOnlyList<SystemRequirement> found) =>
    [
        .. found.Where(needed => needed.Kind != RequirementKind.Package && !stated.Any(said => Covers(said, needed))),
    ];

    private static bool Covers(SystemRequirement said, SystemRequirement needed) =>
        (said.Kind, said.Name, said.Of) == (needed.Kind, needed.Name, needed.Of)
        && SymbolVersions.Highest(said.Symbols.Concat(needed.Symbols)).All(said.Symbols.Contains);
}
