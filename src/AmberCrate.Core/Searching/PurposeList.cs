using System.Reflection;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;

namespace AmberCrate.Core.Searching;

/// <summary>The purposes that a search knows: our own, in docs/purposes.toml, and those that catalogues add.</summary>
public static class PurposeList
{
    /// <summary>The most purposes that a catalogue may add.</summary>
    public const int Most = 500;

    /// <summary>
    /// The SHA-256 of the file of our own purposes, which says whether a cache has these. It is a constant so that a search
    /// need not compute it; a test says when it is to be changed.
    /// </summary>
    public const string OwnDigest = "6aa1b90db8330d4ad0db93b8ca4a84507eabffabb5375c6fd00e31692777a9ba";

    private const string Empty = "expected letters or digits in each, and on both sides of a +";
    private const string Resource = "AmberCrate.Core.purposes.toml";

    /// <summary>The file of our own purposes.</summary>
    public static byte[] OwnFile()
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream(Resource)!;
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        return bytes;
    }

    /// <summary>Reads our own purposes.</summary>
    public static IReadOnlyList<Purpose> ReadOwn()
    {
        var faults = new List<FormatFault>();
        var root = TomlText.Read(System.Text.Encoding.UTF8.GetString(OwnFile()), "purposes.toml", faults);
        var purposes = root is null ? [] : Read(new TableReader(root, "purposes.toml", "", faults));
        return faults.Count == 0 ? purposes : throw new InvalidDataException(faults[0].ToString());
    }

    /// <summary>
    /// Those of some purposes that words ask for, with the words that do; those that take the most words first.
    /// </summary>
    /// <param name="purposes">The purposes.</param>
    /// <param name="words">The words, folded.</param>
    public static IReadOnlyList<(Purpose Purpose, IReadOnlySet<string> Taken)> Asked(
        IEnumerable<Purpose> purposes, IReadOnlyList<string> words)
    {
        var byStem = StemsIn(words);
        return
        [
            .. purposes
                .SelectMany(purpose => purpose.Asked.Select(phrase => (purpose, Stems: Purpose.StemsOf(phrase))))
                .Where(asked => asked.Stems.All(byStem.ContainsKey))
                .OrderByDescending(asked => asked.Stems.Count)
                .Select(asked => (asked.purpose, Words(asked.Stems)))
                .DistinctBy(asked => asked.purpose.Key),
        ];

        IReadOnlySet<string> Words(IEnumerable<string> stems) =>
            stems.SelectMany(stem => byStem[stem]).ToHashSet(StringComparer.Ordinal);
    }

    /// <summary>
    /// The stems that words have, each with the words that it takes: a word alone, or two neighbours that were typed apart, as
    /// in "spread sheet".
    /// </summary>
    /// <param name="words">The words, folded.</param>
    public static IReadOnlyDictionary<string, IReadOnlyList<string>> StemsIn(IReadOnlyList<string> words)
    {
        var found = new Dictionary<string, IReadOnlyList<string>>(StringComparer.Ordinal);
        foreach (var word in words) found.TryAdd(Purpose.StemOf(word), [word]);
        foreach (var (one, other) in words.Zip(words.Skip(1))) found.TryAdd(Purpose.StemOf(one + other), [one, other]);
        return found;
    }

    /// <summary>Reads the tables <c>[[purposes]]</c> of a file.</summary>
    /// <param name="table">The file.</param>
    public static IReadOnlyList<Purpose> Read(TableReader table)
    {
        var purposes = new List<Purpose>();
        foreach (var child in table.Children("purposes"))
        {
            var (asked, categories, words) = (child.Texts("asked"), child.Texts("categories"), child.Texts("words"));
            var purpose = Purpose.Create(asked, categories, words);
            if (purpose.Asked.Count == 0) child.AddFault("asked", "expected at least one phrase");
            if (purpose.Categories.Count + purpose.Words.Count == 0)
                child.AddFault("categories", "expected a category, or words");
            if (purpose.Categories.Count < categories.Count) child.AddFault("categories", Empty);
            if (purpose.Words.Count < words.Count) child.AddFault("words", Empty);
            child.RefuseUnknownKeys();
            purposes.Add(purpose);
        }

        if (purposes.Count > Most) table.AddFault("purposes", $"expected at most {Most}, found {purposes.Count}");
        return purposes;
    }
}
