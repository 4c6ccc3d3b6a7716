using AmberCrate.Core.Requirements;

namespace AmberCrate.Cli.Shared;

/// <summary>Something that a system lacks, as JSON.</summary>
internal sealed record LackDocument(string Kind, string Name, string Words, string? Package)
{
    /// <summary>The document.</summary>
    public static LackDocument FromLack(SystemLack lack) => new(
        RequirementWords.Kinds.WordOf(lack.Requirement.Kind), lack.Requirement.Name, lack.Words, lack.Package);
}
