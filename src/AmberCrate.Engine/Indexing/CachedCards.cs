using System.Collections.Concurrent;
using System.Runtime.ExceptionServices;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Indexing;

/// <summary>Finds the cards of the catalogue cache by id or name, and reads them.</summary>
/// <param name="database">The cache.</param>
/// <param name="path">Its file, for errors.</param>
internal sealed class CachedCards(Database database, string? path) : IDisposable
{
    private const int WorthSharing = 32, AtATime = 16;

    private readonly Dictionary<long, Place> _places = [];
    private Statement? _finding;

    /// <summary>The offers of an app in these catalogues, in their order.</summary>
    public IReadOnlyList<Offer> Find(AppId id, IReadOnlyList<CatalogueName> catalogues) =>
        DatabaseException.Reading(path, () => InOrder(Lines(id).ConvertAll(ReadOffer), catalogues));

    /// <summary>
    /// The same for several apps at once; the cards are read on every processor, with the newest release of each or with all.
    /// </summary>
    public IReadOnlyList<(AppId Id, IReadOnlyList<Offer> Offers)> FindAll(
        IReadOnlyList<AppId> ids, IReadOnlyList<CatalogueName> catalogues, bool everyRelease)
    {
        if (ids.Count < WorthSharing) return [.. ids.Select(id => (id, Find(id, catalogues)))];
        var found = new (AppId Id, IReadOnlyList<Offer> Offers)[ids.Count];
        return database.ReadTogether(() => Fill(found, ids, catalogues, everyRelease));
    }

    private (AppId Id, IReadOnlyList<Offer> Offers)[] Fill(
        (AppId Id, IReadOnlyList<Offer> Offers)[] found, IReadOnlyList<AppId> ids, IReadOnlyList<CatalogueName> catalogues,
        bool everyRelease)
    {
        try
        {
            // One thread at a time uses the database, while the others read the cards that have come.
            Parallel.ForEach(Partitioner.Create(Chunks(ids), EnumerablePartitionerOptions.NoBuffering), chunk =>
            {
                for (var at = 0; at < chunk.Lines.Count; at++)
                {
                    var offers =
                        DatabaseException.Reading(path, () => InOrder(chunk.Lines[at].ConvertAll(ReadOffer), catalogues));
                    found[chunk.First + at] = (ids[chunk.First + at], offers);
                    foreach (var (_, _, card) in offers)
                    {
                        for (var release = 0; release < (everyRelease ? card.Releases.Count : 1); release++)
                            ReadArtifacts(card.Releases[release]);
                    }
                }
            });
        }
        catch (AggregateException several)
        {
            ExceptionDispatchInfo.Throw(several.InnerExceptions[0]);
        }

        return found;
    }

    /// <summary>The newest releases of apps in their catalogues; apps that are not there are left out.</summary>
    public IReadOnlyDictionary<AppId, string> Glance(IReadOnlyCollection<(AppId Id, CatalogueName Catalogue)> apps) =>
        DatabaseException.Reading<IReadOnlyDictionary<AppId, string>>(path, () => database.ReadTogether(() =>
        {
            var found = new Dictionary<AppId, string>(apps.Count);
            using var finding = database.Prepare(
                "SELECT apps.releases FROM apps INDEXED BY apps_by_id WHERE app = $1 AND catalogue = "
                    + "(SELECT number FROM catalogues WHERE name = $2)");
            foreach (var (id, catalogue) in apps)
            {
                if (finding.Query(row => row.Text(0), id.Text, catalogue.Text) is [var releases]) found.Add(id, releases);
            }

            return found;
        }));

    /// <summary>
    /// The names of apps in the first language that their catalogue names them in; the others are left out.
    /// </summary>
    /// <param name="apps">The apps, each with its catalogue.</param>
    /// <param name="languages">The languages, in order of preference.</param>
    public IReadOnlyDictionary<AppId, string> LocalNames(
        IReadOnlyCollection<(AppId Id, CatalogueName Catalogue)> apps, IReadOnlyList<string> languages) =>
        DatabaseException.Reading<IReadOnlyDictionary<AppId, string>>(path, () => database.ReadTogether(() =>
        {
            var names = new Dictionary<AppId, string>();
            using var finding = database.Prepare(
                "SELECT translations.language, translations.title FROM apps INDEXED BY apps_by_id "
                    + "JOIN translations USING (number) WHERE app = $1 AND catalogue = "
                    + "(SELECT number FROM catalogues WHERE name = $2) AND translations.title <> ''");
            foreach (var (id, catalogue) in apps)
            {
                var said = finding.Query(row => (Language: row.Text(0), Title: row.Text(1)), id.Text, catalogue.Text)
                    .ToDictionary(name => name.Language, name => name.Title, StringComparer.Ordinal);
                if (languages.FirstOrDefault(said.ContainsKey) is { } language) names[id] = said[language];
            }

            return names;
        }));

    /// <summary>The lines of apps, some at a time.</summary>
    private IEnumerable<(int First, List<List<(Place From, byte[] Line)>> Lines)> Chunks(IReadOnlyList<AppId> ids)
    {
        for (var first = 0; first < ids.Count; first += AtATime)
        {
            var lines = new List<List<(Place From, byte[] Line)>>(AtATime);
            for (var at = first; at < Math.Min(first + AtATime, ids.Count); at++) lines.Add(Lines(ids[at]));
            yield return (first, lines);
        }
    }

    /// <summary>Reads now what is otherwise read on demand.</summary>
    private static void ReadArtifacts(Release release)
    {
        for (var at = 0; at < release.Artifacts.Count; at++) _ = release.Artifacts[at];
    }

    /// <summary>The ids of apps in these catalogues whose id or name, folded and run together, is exactly this.</summary>
    public IReadOnlyList<AppId> Named(string squashed, IReadOnlyList<CatalogueName> catalogues) =>
        squashed.Length == 0 ? [] : DatabaseException.Reading<IReadOnlyList<AppId>>(path, () => [.. database
        .Query(
            "SELECT apps.app, catalogues.name, apps.name FROM texts JOIN apps ON apps.place = texts.rowid JOIN catalogues ON "
                + "catalogues.number = apps.catalogue WHERE texts MATCH $1",
            row => (Id: AppId.Parse(row.Text(0)), Catalogue: CatalogueName.Parse(row.Text(1)), Name: row.Text(2)),
            $"squashed : \"{squashed}\" OR marks : \"{FilterTokens.OfId(squashed)}\"")
        .Where(row => catalogues.Contains(row.Catalogue))
        .Where(row => SearchText.Squash(row.Id.Text) == squashed || SearchText.Squash(row.Name) == squashed)
        .Select(row => row.Id)
        .Distinct()
        .OrderBy(id => id.Text, StringComparer.Ordinal)]);

    /// <summary>Ids in these catalogues that begin in a certain way, in order.</summary>
    public IReadOnlyList<string> IdsFrom(string beginning, IReadOnlyList<CatalogueName> catalogues, int most) =>
        DatabaseException.Reading(path, IReadOnlyList<string> () => [.. database
            .Query(
                "SELECT apps.app, catalogues.name FROM apps JOIN catalogues ON catalogues.number = apps.catalogue "
                    + "WHERE apps.app >= $1 AND apps.app < $2 ORDER BY apps.app LIMIT $3",
                row => (Id: row.Text(0), Catalogue: CatalogueName.Parse(row.Text(1))), beginning, beginning + '\x7f', most)
            .Where(row => catalogues.Contains(row.Catalogue))
            .Select(row => row.Id)
            .Distinct()]);

    /// <summary>The ids in these catalogues that a mistyped name may mean, the nearest first.</summary>
    public IReadOnlyList<AppId> Nearest(string name, IReadOnlyList<CatalogueName> catalogues, int most)
    {
        var pattern = NameDistance.PatternOf(name);
        var near = new Dictionary<string, int>(StringComparer.Ordinal);
        if (pattern.Most == 0) return [];
        foreach (var words in new IndexVocabulary(database).Near(pattern)
            .GroupBy(word => word.Distance, word => word.Word)
            .OrderBy(words => words.Key))
        {
            // The word may be the name of an app whose id is farther away.
            foreach (var id in words.SelectMany(word => Named(word, catalogues)))
            {
                if (pattern.DistanceTo(id.Text) is var distance && distance <= pattern.Most) near[id.Text] = distance;
            }

            if (near.Values.Count(distance => distance <= words.Key) >= most) break;
        }

        return [.. NameDistance.Nearest(near.Select(pair => (pair.Key, pair.Value)), most).Select(AppId.Parse)];
    }

    /// <inheritdoc/>
    public void Dispose() => _finding?.Dispose();

    /// <summary>Where a catalogue is in the order of preference.</summary>
    internal static int PositionOf(CatalogueName name, IReadOnlyList<CatalogueName> catalogues)
    {
        for (var at = 0; at < catalogues.Count; at++)
        {
            if (catalogues[at] == name) return at;
        }

        return int.MaxValue;
    }

    /// <summary>The packed lines of an app, in every catalogue.</summary>
    private List<(Place From, byte[] Line)> Lines(AppId id)
    {
        _finding ??= database.Prepare(
            "SELECT apps.catalogue, line FROM apps INDEXED BY apps_by_id CROSS JOIN cards ON cards.number = apps.number WHERE "
                + "apps.app = $1");
        return _finding.Query(row => (PlaceOf(row.Number(0)), row.Bytes(1)), id.Text);
    }

    /// <summary>The catalogue of a number, and the base address of its cards' locations.</summary>
    private Place PlaceOf(long number)
    {
        if (_places.TryGetValue(number, out var known)) return known;
        var found = database.Query(
            "SELECT name, base FROM catalogues WHERE number = $1",
            row => new Place(CatalogueName.Parse(row.Text(0)), new Uri(row.Text(1))), number);
        return _places[number] = found.Count > 0 ? found[0] : throw new MalformedException($"there is no catalogue {number}");
    }

    private sealed record Place(CatalogueName Name, Uri Base);

    private Offer ReadOffer((Place From, byte[] Line) row) => new(row.From.Name, row.From.Base, ReadCard(row.Line));

    /// <summary>Reads a card as it is kept.</summary>
    private AppCard ReadCard(byte[] line)
    {
        try
        {
            return CardJson.Open(CardCompression.Unpack(line), fault => DatabaseException.Damaged(path, fault));
        }
        catch (InvalidDataException fault)
        {
            throw DatabaseException.Damaged(path, fault);
        }
    }

    private static List<Offer> InOrder(List<Offer> found, IReadOnlyList<CatalogueName> catalogues)
    {
        found.RemoveAll(offer => !catalogues.Contains(offer.Catalogue));
        if (found.Count > 1)
            found.Sort(
                (left, right) => PositionOf(left.Catalogue, catalogues).CompareTo(PositionOf(right.Catalogue, catalogues)));
        return found;
    }
}
