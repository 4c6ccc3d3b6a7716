using AmberCrate.Core.Requirements;

namespace AmberCrate.Core.Drafting;

/// <summary>One dependency of a Debian package: a package, or one of several.</summary>
/// <param name="Any">The packages: one of them will do. At least one.</param>
public sealed record DebianDependency(IReadOnlyList<SystemPackage> Any)
{
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
