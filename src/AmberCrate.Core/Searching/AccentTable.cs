namespace AmberCrate.Core.Searching;

/// <summary>
/// Letters whose Unicode decomposition (UnicodeData, canonical mappings) begins with a basic Latin letter, and the few that
/// people type as two. The program runs without the system's Unicode library, so the table is here; apart from its user,
/// so that it is not made where all text is ASCII.
/// </summary>
internal static class AccentTable
{
    /// <summary>The plain letters for each, in lower case.</summary>
    public static readonly Dictionary<char, string> Plain = Create(
        ("a", "àáâãäåāăąǎ"), ("c", "çćĉċč"), ("d", "ďđð"), ("e", "èéêëēĕėęě"), ("g", "ĝğġģ"), ("h", "ĥħ"), ("i", "ìíîïĩīĭįı"),
        ("j", "ĵ"), ("k", "ķ"), ("l", "ĺļľŀł"), ("n", "ñńņňŉŋ"), ("o", "òóôõöøōŏőǒ"), ("r", "ŕŗř"), ("s", "śŝşšșſ"),
        ("t", "ţťŧț"), ("u", "ùúûüũūŭůűųǔ"), ("w", "ŵ"), ("y", "ýÿŷ"), ("z", "źżž"), ("ss", "ß"), ("ae", "æ"), ("oe", "œ"),
        ("th", "þ"));

    private static Dictionary<char, string> Create(params (string Plain, string Letters)[] rows) =>
        rows.SelectMany(row => row.Letters.Select(letter => (letter, row.Plain)))
            .ToDictionary(pair => pair.letter, pair => pair.Plain);
}
