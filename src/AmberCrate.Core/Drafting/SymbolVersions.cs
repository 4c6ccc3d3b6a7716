using System.Text.RegularExpressions;

namespace AmberCrate.Core.Drafting;

/// <summary>
/// Which versions of symbols decide whether a library will do: of each series, such as GLIBC_2.17 and GLIBC_2.38, the highest.
/// A library that has it has the earlier ones too, by the rules for symbol versions (Drepper, "How To Write Shared Libraries").
/// </summary>
internal static partial class SymbolVersions
{
    /// <summary>The highest of each series, in order.</summary>
    public static IReadOnlyList<string> Highest(IEnumerable<string> versions) =>
    [
        .. versions.Distinct().GroupBy(version => Series().Match(version).Groups["series"].Value, StringComparer.Ordinal)
            .Select(series => series.MaxBy(Number)!)
            .Order(StringComparer.Ordinal),
    ];

    private static Version Number(string version)
    {
        var digits = Series().Match(version).Groups["number"].Value.Split('.', StringSplitOptions.RemoveEmptyEntries);
        var parts = digits.Select(part => int.TryParse(part, out var number) ? number : 0).Append(0).Append(0).Take(4).ToArray();
        return parts.Length switch
        {
            2 => new Version(parts[0], parts[1]),
            3 => new Version(parts[0], parts[1], parts[2]),
            _ => new Version(parts[0], parts[1], parts[2], parts[3]),
        };
    }

    [GeneratedRegex("^(?<series>.*?)(?<number>[0-9]+([.][0-9]+)*)?$", RegexOptions.ExplicitCapture, 1000)]
    private static partial Regex Series();
}
