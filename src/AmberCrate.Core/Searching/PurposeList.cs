using System.Reflection;
using AmberCrate.Core.Formats;

namespace AmberCrate.Core.Searching;

/// <summary>The purposes that a search knows: our own, in docs/purposes.toml, and those that catalogues add.</summary>
public sealed class PurposeList
{
    /// <summary>The most purposes that a catalogue may add.</summary>
    public const int Most = 500;

    private const string Resource = "AmberCrate.Core.purposes.toml";

    private readonly Dictionary<string, List<(IReadOnlyList<string> Stems, Purpose Purpose)>> _byFirstStem =
        new(StringComparer.Ordinal);

    /// <summary>Takes purposes.</summary>
    public PurposeList(IEnumerable<Purpose> purposes)
    {
        foreach (var purpose in purposes)
        {
            foreach (var stems in purpose.Asked.Where(stems => stems.Count > 0))
            {
                if (!_byFirstStem.TryGetValue(stems[0], out var known)) _byFirstStem.Add(stems[0], known = []);
                known.Add((stems, purpose));
            }
        }
    }

    /// <summary>Our own purposes.</summary>
    public static IReadOnlyList<Purpose> OwnPurposes { get; } = ReadOwn();

    /// <summary>
    /// The purposes for which words ask, with the words that do, those that take the most words first.
    /// </summary>
    public IReadOnlyList<(Purpose Purpose, IReadOnlySet<string> Taken)> In(IReadOnlyList<string> words)
    {
        var byStem = words.GroupBy(EnglishStemmer.Stem).ToDictionary(group => group.Key, group => group.First());
        return
        [
            .. byStem.Keys.Where(_byFirstStem.ContainsKey)
                .SelectMany(stem => _byFirstStem[stem])
                .Where(asked => asked.Stems.All(byStem.ContainsKey))
                .OrderByDescending(asked => asked.Stems.Count)
                .Select(asked => (asked.Purpose, Words(asked.Stems)))
                .DistinctBy(asked => asked.Purpose),
        ];

        IReadOnlySet<string> Words(IEnumerable<string> stems) =>
            stems.Select(stem => byStem[stem]).ToHashSet(StringComparer.Ordinal);
    }

    /// <summary>Reads the tables <c>[[purposes]]</c> of a file.</summary>
    /// <param name="table">The file.</param>
    public static IReadOnlyList<Purpose> Read(TableReader table)
    {
        var purposes = new List<Purpose>();
        foreach (var child in table.Children("purposes"))
        {
            var (asked, categories, words) = (child.Texts("asked"), child.Texts("categories"), child.Texts("words"));
            if (asked.Count == 0) child.AddFault("asked", "expected at least one phrase");
            if (categories.Count + words.Count == 0) child.AddFault("categories", "expected a category, or words");
            child.RefuseUnknownKeys();
            purposes.Add(Of(asked, categories, words));
        }

        if (purposes.Count > Most) table.AddFault("purposes", $"expected at most {Most}");
        return purposes;
    }

    /// <summary>A purpose as people write it.</summary>
    /// <param name="asked">How people ask for it.</param>
    /// <param name="categories">Categories; several that are all needed are joined by <c>+</c>.</param>
    /// <param name="words">Words by which such an app may be told.</param>
    public static Purpose Of(IEnumerable<string> asked, IEnumerable<string> categories, IEnumerable<string> words) => new(
        [.. asked.Select(phrase => (IReadOnlyList<string>)
            [.. SearchText.Fold(phrase).Split(' ').Select(EnglishStemmer.Stem).Distinct()])],
        [.. categories.Select(together => (IReadOnlyList<string>)[.. together.Split('+').Select(SearchText.Squash)])],
        [.. words.Select(SearchText.Squash).Where(word => word.Length > 0)]);

    private static IReadOnlyList<Purpose> ReadOwn()
    {
        using var stream = Assembly.GetExecutingAssembly().GetManifestResourceStream(Resource)!;
        using var reader = new StreamReader(stream);
        var faults = new List<FormatFault>();
        var root = TomlText.Read(reader.ReadToEnd(), "purposes.toml", faults);
        var purposes = root is null ? [] : Read(new TableReader(root, "purposes.toml", "", faults));
        return faults.Count == 0 ? purposes : throw new InvalidDataException(faults[0].ToString());
    }
}
