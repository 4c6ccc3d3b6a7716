using System.Reflection;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>
/// The identifiers of the SPDX licence list. A card may use others, which may be newer; "card check" warns of them.
/// </summary>
public static class SpdxLicences
{
    private const string Resource = "AmberCrate.Core.spdx-licences.txt";

    private static readonly Lazy<Dictionary<string, string>> Known = new(Read);

    /// <summary>The identifiers of an expression that are not on the list.</summary>
    public static IEnumerable<string> UnknownIn(string expression) =>
        expression.Split([' ', '(', ')'], StringSplitOptions.RemoveEmptyEntries)
            .Where(word => word is not ("AND" or "OR" or "WITH")
                && !word.StartsWith("LicenseRef-", StringComparison.Ordinal)
                && !word.StartsWith("DocumentRef-", StringComparison.Ordinal)
                && Known.Value.GetValueOrDefault(word.TrimEnd('+')) != word.TrimEnd('+'))
            .Distinct();

    /// <summary>What an unknown identifier may have been meant for; null if nothing is near.</summary>
    public static string? Nearest(string unknown)
    {
        if (Known.Value.GetValueOrDefault(unknown) is { } known) return known;
        var (name, orLater) = (unknown.TrimEnd('+'), unknown.EndsWith('+'));

        // GPLv2, LGPL2.1, AGPL-3: what people write.
        var letters = string.Concat(name.TakeWhile(letter => char.IsAsciiLetter(letter) && letter is not 'v'));
        var version = name[letters.Length..].TrimStart('-', 'v', 'V');
        if (letters.EndsWith("GPL", StringComparison.OrdinalIgnoreCase) && version.Length > 0)
        {
            var full = version.Contains('.', StringComparison.Ordinal) ? version : version + ".0";
            var meant = $"{letters.ToUpperInvariant()}-{full}-{(orLater ? "or-later" : "only")}";
            if (Known.Value.ContainsKey(meant)) return meant;
        }

        return WordDistance.Nearest(name, Known.Value.Values);
    }

    private static Dictionary<string, string> Read()
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream(Resource)!;
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd().Split('\n').Where(line => line.Length > 0 && line[0] != '#')
            .Distinct(StringComparer.OrdinalIgnoreCase)
            .ToDictionary(id => id, id => id, StringComparer.OrdinalIgnoreCase);
    }
}
