using AmberCrate.Core.Requirements;

namespace AmberCrate.Core.Drafting;

/// <summary>One dependency of a Debian package: a package, or one of several.</summary>
/// <param name="Any">The packages: one of them will do. At least one.</param>
public sealed record DebianDependency(IReadOnlyList<SystemPackage> Any)
{
    /// <summary>The fields of a control file that name what a package does not work without.</summary>
    internal static readonly string[] Fields = ["Pre-Depends", "Depends"];

    /// <summary>
    /// The control fields of packages that make one app: those of the first, with what any of them depends on beside the others.
    /// </summary>
    public static IReadOnlyDictionary<string, string> Join(IReadOnlyList<IReadOnlyDictionary<string, string>> packages)
    {
        if (packages.Count == 1) return packages[0];
        var own = packages.Select(package => package.GetValueOrDefault("Package"))
            .Concat(packages.SelectMany(package => Parse(package.GetValueOrDefault("Provides")))
                .Select(provided => provided.Any[0].Name))
            .OfType<string>().ToHashSet(StringComparer.Ordinal);
        var joined = new Dictionary<string, string>(packages[0], StringComparer.Ordinal);
        foreach (var field in Fields)
        {
            var clauses = packages.SelectMany(package => (package.GetValueOrDefault(field) ?? "").Split(','))
                .Select(clause => clause.Trim()).Where(clause => clause.Length > 0).Distinct()
                .Where(clause => !Parse(clause).Any(one => one.Any.Any(package => own.Contains(package.Name))));
            joined[field] = string.Join(", ", clauses);
        }

        return joined;
    }

    /// <summary>
    /// Reads a field of dependencies, after the Debian policy, 7.1. Upper bounds, architectures and profiles are left out; what
    /// cannot be read is too.
    /// </summary>
    /// <param name="field">The field; null for none.</param>
    public static IEnumerable<DebianDependency> Parse(string? field)
    {
        foreach (var one in (field ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries))
        {
            var any = one.Split('|').Select(Package).OfType<SystemPackage>().ToList();
            if (any.Count > 0) yield return new DebianDependency(any);
        }
    }

    private static SystemPackage? Package(string text)
    {
        var name = text.Split('[', '<')[0].Split('(')[0].Trim().Split(':')[0];
        var open = text.IndexOf('(', StringComparison.Ordinal);
        var least = "";
        if (open >= 0 && text.IndexOf(')', open) is > 0 and var close)
        {
            var relation = text[(open + 1)..close].Trim();
            if (relation.StartsWith(">=", StringComparison.Ordinal) || relation.StartsWith(">>", StringComparison.Ordinal))
                least = relation[2..].Trim();
            else if (relation.StartsWith('=')) least = relation[1..].Trim();
        }

        return SystemPackage.TryParse(least.Length > 0 ? $"{name}>={least}" : name, out var package) ? package
            : SystemPackage.TryParse(name, out package) ? package : null;
    }
}
