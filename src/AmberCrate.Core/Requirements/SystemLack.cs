namespace AmberCrate.Core.Requirements;

/// <summary>Something that a release requires and a system does not have.</summary>
/// <param name="Requirement">What is required.</param>
/// <param name="Found">Why the thing on the system will not do, in words; null if the system has none.</param>
/// <param name="Package">
/// The package or capability that would bring it on this system; null if no package is known, or no package can help.
/// </param>
public sealed record SystemLack(SystemRequirement Requirement, string? Found, string? Package)
{
    private const int MostNamed = 5;

    /// <summary>It in words.</summary>
    public string Words => Found is null ? Requirement.Words : $"{Requirement.Words} ({Found})";

    /// <summary>Several in words, the first few by name.</summary>
    /// <param name="lacks">What is lacking; at least one.</param>
    public static string Name(IReadOnlyList<SystemLack> lacks)
    {
        var named = lacks.Take(MostNamed).Select(lack => lack.Words).ToList();
        if (lacks.Count > MostNamed) named.Add($"{lacks.Count - MostNamed} more");
        return named.Count == 1 ? named[0] : $"{string.Join(", ", named[..^1])} and {named[^1]}";
    }
}
