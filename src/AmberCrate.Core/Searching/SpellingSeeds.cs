using System.Buffers;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Searching;

/// <summary>
/// Keys that find the texts near another one in sorted lists, instead of comparing all texts.
/// Two or three wrong letters cannot all be at both ends: whatever is near begins, or ends, with letters of which one at most is
/// wrong, and those can be written down. Source of the idea: U. Manber and S. Wu, "An algorithm for approximate membership
/// checking", 1994.
/// </summary>
/// <param name="Beginnings">What a near text begins with.</param>
/// <param name="Endings">What one ends with that begins otherwise, each from its last letter to its first.</param>
public sealed record SpellingSeeds(IReadOnlyList<string> Beginnings, IReadOnlyList<string> Endings)
{
    private const int MostTolerated = 3, Longest = 6;
    private const string Letters = "abcdefghijklmnopqrstuvwxyz", Digits = "0123456789";

    private static readonly SearchValues<char> Known = SearchValues.Create(Letters + Digits);

    /// <summary>
    /// The seeds of a text; null where it has none: where more is tolerated than its ends can show, or it has letters for
    /// which others than the Latin ones would have to be tried. Digits are tried only for texts that have some.
    /// </summary>
    /// <param name="text">The text, of small letters and digits.</param>
    /// <param name="most">How far others may be apart from it, by <see cref="WordDistance.Between"/>, to be near.</param>
    public static SpellingSeeds? Create(string text, int most)
    {
        // Three operations, one of them a swap of the letters at a joint, need a letter between both ends that belongs to
        // neither.
        var length = Math.Min(Longest, most switch { 1 => text.Length, 2 => text.Length / 2, _ => (text.Length - 1) / 2 });
        if (most is < 1 or > MostTolerated || length < 1 || text.AsSpan().ContainsAnyExcept(Known)) return null;
        var letters = text.AsSpan().ContainsAnyInRange('0', '9') ? Letters + Digits : Letters;
        return new SpellingSeeds(
            OneWrongAtMost(text[..length], letters), most == 1 ? [] : OneWrongAtMost(Reversed(text)[..length], letters));
    }

    /// <summary>A text from its last letter to its first.</summary>
    public static string Reversed(string text) => string.Create(text.Length, text, (letters, from) =>
    {
        from.CopyTo(letters);
        letters.Reverse();
        for (var at = 1; at < letters.Length; at++)
        {
            if (char.IsSurrogatePair(letters[at], letters[at - 1]))
                (letters[at - 1], letters[at]) = (letters[at], letters[at - 1]);
        }
    });

    /// <summary>
    /// Beginnings that cover every text that begins with this one, a letter put in, left out, changed or swapped at most.
    /// </summary>
    private static List<string> OneWrongAtMost(string beginning, string letters)
    {
        // A word with the last letter wrong, and the right word, begin with the letters before it.
        var last = beginning.Length - 1;
        var seeds = new List<string>(1 + (last * 2 * (letters.Length + 1))) { beginning[..last] };
        for (var at = 0; at < last; at++)
        {
            var before = beginning.AsSpan(0, at);
            var (from, behind) = (beginning[at..], beginning[(at + 1)..]);
            seeds.Add(string.Concat(before, behind));
            seeds.Add(string.Concat(before, behind.AsSpan(0, 1), from.AsSpan(0, 1), behind.AsSpan(1)));
            for (var letter = 0; letter < letters.Length; letter++)
            {
                // A letter beside its like is the same before and behind it.
                if (letters[letter] == beginning[at]) continue;
                var other = letters.AsSpan(letter, 1);
                seeds.Add(string.Concat(before, other, behind));
                seeds.Add(string.Concat(before, other, from));
            }
        }

        return seeds;
    }
}
