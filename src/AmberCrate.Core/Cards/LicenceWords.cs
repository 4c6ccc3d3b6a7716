namespace AmberCrate.Core.Cards;

/// <summary>
/// Says in plain words what a licence allows. The identifiers are those of the SPDX list; the words are ours, name the kind of
/// a licence only, and are no legal advice.
/// </summary>
public static class LicenceWords
{
    private const string Own = "LicenseRef-";

    // By the beginning of an identifier, the longer ones first where one begins with another.
    private static readonly (string Beginning, string Words)[] Kinds =
    [
        ("AGPL-", "free; changed versions stay free, also where they are only used over a network"),
        ("LGPL-", "free; changes to it stay free, programs that use it need not"),
        ("GPL-", "free; changed copies must stay free"),
        ("MPL-", "free; its changed files stay free, the rest need not"),
        ("EPL-", "free; its changed parts stay free, the rest need not"),
        ("EUPL-", "free; changed copies must stay free"),
        ("CDDL-", "free; its changed files stay free, the rest need not"),
        ("Apache-", "free, also inside software that is not; covers patents"),
        ("MIT", "free, also inside software that is not"),
        ("BSD-", "free, also inside software that is not"),
        ("0BSD", "free, without any condition"),
        ("ISC", "free, also inside software that is not"),
        ("Zlib", "free, also inside software that is not"),
        ("BSL-", "free, also inside software that is not"),
        ("Unlicense", "free, without any condition"),
        ("CC0-", "free, without any condition"),
        ("OFL-", "a free font: may be used and changed, not sold by itself"),
        ("CC-BY-NC", "to be shared, but not for business"),
        ("CC-BY", "to be shared where its author is named"),
        (Own + "proprietary", "not free: the vendor's terms apply"),
        (Own, "terms of its own"),
    ];

    /// <summary>The words for an SPDX licence expression.</summary>
    public static string Describe(string expression)
    {
        var words = expression.Split([' ', '(', ')'], StringSplitOptions.RemoveEmptyEntries);
        if (words.Length == 1) return OfOne(words[0]);
        var names =
            words.Where((word, at) => word is not ("AND" or "OR" or "WITH") && (at == 0 || words[at - 1] != "WITH")).ToList();
        if (names.Count == 1) return OfOne(names[0]) + (words.Contains("WITH") ? ", with an exception" : "");
        var mixed = words.Contains("AND") && words.Contains("OR");
        var start = mixed ? "several licences" : words.Contains("OR") ? "your choice" : "all of these apply";
        return $"{start}: {string.Join("; ", names.Select(OfOne).Distinct())}";
    }

    private static string OfOne(string identifier)
    {
        foreach (var (beginning, words) in Kinds)
        {
            if (identifier.StartsWith(beginning, StringComparison.Ordinal)) return words;
        }

        return "see the text of the licence";
    }
}
