using System.Numerics;
using System.Runtime.InteropServices;
using System.Text;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Searching;

/// <summary>
/// One text to compare many others with. Most of them are ruled out by the set of their letters, since one wrong
/// letter changes two members at most; the rest are compared with all letters of this text at once. The distance is that of
/// <see cref="WordDistance.Between"/>. Source: H. Hyyrö, "A bit-vector algorithm for computing Levenshtein and Damerau edit
/// distances", 2003.
/// </summary>
public sealed class SpellingPattern
{
    private const int MostLetters = 64;

    private readonly string _text;
    private readonly bool _skipsJoints;
    private readonly uint _letters;
    private readonly ulong[] _places = new ulong[128];
    private readonly Dictionary<char, ulong> _placesOfOthers = [];

    /// <summary>Makes one.</summary>
    /// <param name="text">The text.</param>
    /// <param name="most">How far others may be apart from it to be near.</param>
    /// <param name="skipsJoints">Whether the hyphens and dots of others do not count.</param>
    public SpellingPattern(string text, int most, bool skipsJoints)
    {
        (_text, Most, _skipsJoints) = (text, most, skipsJoints);
        for (var at = 0; at < Math.Min(text.Length, MostLetters); at++)
        {
            if (text[at] < _places.Length) _places[text[at]] |= 1UL << at;
            else CollectionsMarshal.GetValueRefOrAddDefault(_placesOfOthers, text[at], out _) |= 1UL << at;
            _letters |= LetterOf(text[at]);
        }
    }

    /// <summary>How far others may be apart to be near.</summary>
    public int Most { get; }

    /// <summary>The text.</summary>
    public string Text => _text;

    /// <summary>The texts that are near, each with its distance.</summary>
    public IEnumerable<(string Text, int Distance)> Among(IEnumerable<string> others) =>
        others.Select(other => (Text: other, Distance: DistanceTo(other))).Where(pair => pair.Distance <= Most);

    /// <summary>The distance to a text in UTF-8; where it is not near, something larger than <see cref="Most"/>.</summary>
    public int DistanceTo(ReadOnlySpan<byte> other)
    {
        var letters = 0u;
        foreach (var letter in other)
        {
            if (letter >= _places.Length) return DistanceTo(Encoding.UTF8.GetString(other));
            letters |= LetterOf((char)letter);
        }

        if (IsFar(letters)) return int.MaxValue;
        if (_text.Length > MostLetters) return DistanceTo(Encoding.UTF8.GetString(other));
        var comparison = new Comparison(_text.Length);
        foreach (var letter in other)
        {
            if (!IsSkipped((char)letter)) comparison.Add(_places[letter]);
        }

        return comparison.Distance;
    }

    /// <summary>The distance to a text; where it is not near, something larger than <see cref="Most"/>.</summary>
    public int DistanceTo(string other)
    {
        var letters = 0u;
        foreach (var letter in other) letters |= LetterOf(letter);
        if (IsFar(letters)) return int.MaxValue;
        if (_text.Length > MostLetters) return WordDistance.Between(
            _text, _skipsJoints ? string.Concat(other.Where(letter => !IsSkipped(letter))) : other, Most);
        var comparison = new Comparison(_text.Length);
        foreach (var letter in other)
        {
            if (!IsSkipped(letter))
                comparison.Add(letter < _places.Length ? _places[letter] : _placesOfOthers.GetValueOrDefault(letter));
        }

        return comparison.Distance;
    }

    /// <summary>A bit for each letter, the joints of an id left out; letters beyond the alphabet share some.</summary>
    private static uint LetterOf(char letter) => letter is '-' or '.' ? 0 : 1u << (letter & 31);

    private bool IsFar(uint letters) => _text.Length <= MostLetters && BitOperations.PopCount(_letters ^ letters) > 2 * Most;

    private bool IsSkipped(char letter) => _skipsJoints && letter is '-' or '.';

    /// <summary>A column of the table of distances, kept as the steps up and down between its rows.</summary>
    [StructLayout(LayoutKind.Auto)]
    private ref struct Comparison(int length)
    {
        private readonly ulong _last = length == 0 ? 0 : 1UL << (length - 1);
        private ulong _up = ulong.MaxValue;
        private ulong _down;
        private ulong _same;
        private ulong _placesBefore;

        /// <summary>The distance between the text and what has been added so far.</summary>
        public int Distance { get; private set; } = length;

        /// <summary>Adds a letter of the other text.</summary>
        /// <param name="places">Where it is in the text.</param>
        public void Add(ulong places)
        {
            var swapped = ((~_same & places) << 1) & _placesBefore;
            _same = (((places & _up) + _up) ^ _up) | places | _down | swapped;
            var (more, less) = (_down | ~(_same | _up), _up & _same);
            if (_last == 0 || (more & _last) != 0) Distance++;
            else if ((less & _last) != 0) Distance--;
            more = (more << 1) | 1;
            less <<= 1;
            (_up, _down) = (less | ~(_same | more), _same & more);
            _placesBefore = places;
        }
    }
}
