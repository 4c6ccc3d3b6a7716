using System.Globalization;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Running;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// What the catalogues offer, in a local database with full-text search. Everything in it can be fetched again: where
/// it is damaged or from another version, it is made anew and empty.
/// </summary>
public sealed class CatalogueCache : IDisposable
{
    private const int MostJoints = 10;

    private readonly Database _database;
    private const int WorthSharing = 16;

    private Statement? _finding;

    private CatalogueCache(Database database, bool rebuilt) => (_database, WasRebuilt) = (database, rebuilt);

    /// <summary>Whether the database was unusable and has been made anew.</summary>
    public bool WasRebuilt { get; }

    /// <summary>Opens the cache of a root.</summary>
    /// <param name="layout">The root.</param>
    /// <param name="create">Whether to create it where missing; otherwise a missing one reads as empty.</param>
    /// <exception cref="ProblemException">It cannot be opened or made.</exception>
    public static CatalogueCache Open(MachineLayout layout, bool create)
    {
        var path = create || File.Exists(layout.CataloguesFile) ? layout.CataloguesFile : null;
        try
        {
            try
            {
                return Open(path, layout.Scope, rebuilt: false);
            }
            catch (DatabaseException damaged) when (damaged.Code is 11 or 26)
            {
                return Rebuild(layout);
            }
            catch (InvalidDataException)
            {
                return Rebuild(layout);
            }
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw IoProblems.Of(fault, $"the catalogue cache {layout.CataloguesFile} cannot be opened").ToException(fault);
        }
    }

    /// <summary>What is known of a catalogue at a location; null where it was never fetched from there.</summary>
    public CatalogueState? StateOf(RegisteredCatalogue catalogue) => _database.Query(
        "SELECT name, title, base, mark, refreshed, apps, tried FROM catalogues WHERE name = $1 AND location = $2",
        row => new CatalogueState(
            CatalogueName.Parse(row.Text(0)), row.Text(1), new Uri(row.Text(2)), row.IsNull(3) ? null : row.Text(3),
            DateTimeOffset.Parse(row.Text(4), CultureInfo.InvariantCulture), row.Small(5), DateTimeOffset.Parse(row.Text(6), CultureInfo.InvariantCulture)),
        catalogue.Name.Text, catalogue.Location).FirstOrDefault();

    /// <summary>Notes that a catalogue was asked and has not changed.</summary>
    public void Touch(CatalogueName name, DateTimeOffset now) => _database.Run("UPDATE catalogues SET refreshed = $2, tried = $2 WHERE name = $1", name.Text, Time(now));

    /// <summary>Notes that a catalogue was asked in vain.</summary>
    public void NoteTried(CatalogueName name, DateTimeOffset now) => _database.Run("UPDATE catalogues SET tried = $2 WHERE name = $1", name.Text, Time(now));

    /// <summary>The keys of the shards that are known of a catalogue at a location.</summary>
    public IReadOnlySet<string> KnownShards(RegisteredCatalogue catalogue) => _database
        .Query("SELECT key FROM shards JOIN catalogues ON catalogues.number = shards.catalogue WHERE name = $1 AND location = $2", row => row.Text(0), catalogue.Name.Text, catalogue.Location)
        .ToHashSet(StringComparer.Ordinal);

    /// <summary>Forgets a catalogue.</summary>
    public void Drop(CatalogueName name)
    {
        using var transaction = _database.Begin();
        if (NumberOf(name) is > 0 and var number)
        {
            new CatalogueTakeOver(_database, name, number).Clear();
            _database.Run("DELETE FROM catalogues WHERE number = $1", number);
        }

        transaction.Commit();
    }

    /// <summary>Takes a catalogue over. Only shards that are new are read; readers see the old state until all is there, and for good if anything fails.</summary>
    /// <param name="catalogue">The catalogue.</param>
    /// <param name="snapshot">What is at its location now.</param>
    /// <param name="read">Reads the bytes of a new shard, which have been fetched before. Called from several threads.</param>
    /// <param name="now">The time.</param>
    /// <param name="cancel">Stops, and leaves the old state.</param>
    /// <returns>How many shards were read.</returns>
    /// <exception cref="ProblemException">A shard cannot be unpacked or has a faulty line.</exception>
    public int Store(RegisteredCatalogue catalogue, CatalogueSnapshot snapshot, Func<ShardContent, byte[]> read, DateTimeOffset now, CancellationToken cancel)
    {
        var name = catalogue.Name;
        var atSameLocation = StateOf(catalogue) is not null;

        // A commit that a power cut takes back is fetched again; it need not wait for the disk.
        _database.Run("PRAGMA synchronous=NORMAL");
        using var transaction = _database.Begin();
        _database.Run(
            "INSERT INTO catalogues(name, location, title, base, refreshed, apps, tried) VALUES($1, $2, '', '', $3, 0, $3) ON CONFLICT(name) DO UPDATE SET location = excluded.location",
            name.Text, catalogue.Location, Time(now));
        var number = NumberOf(name);
        var takeOver = new CatalogueTakeOver(_database, name, number);
        if (!atSameLocation) takeOver.Clear();
        var added = takeOver.Run(snapshot.Shards, read, cancel);
        var apps = _database.Number("SELECT COUNT(*) FROM texts WHERE texts MATCH $1", $"marks : \"{SearchMarks.OfCatalogue(number)}\"");
        if (apps != snapshot.Apps)
            throw new Problem(ProblemCode.NotVerified, $"the catalogue {name} is not whole", $"{snapshot.Apps} apps were announced, {apps} are there", "tell its keeper; the catalogue as it was before is still in use").ToException();
        _database.Run(
            "UPDATE catalogues SET title = $2, base = $3, mark = $4, refreshed = $5, apps = $6, tried = $5 WHERE number = $1",
            number, snapshot.Settings.Title, snapshot.Base.AbsoluteUri, snapshot.Mark, Time(now), apps);
        cancel.ThrowIfCancellationRequested();
        transaction.Commit();
        return added;
    }

    /// <summary>The offers of an app in these catalogues, in their order.</summary>
    public IReadOnlyList<Offer> Find(AppId id, IReadOnlyList<CatalogueName> catalogues) => InOrder(Lines(id).ConvertAll(ReadOffer), catalogues);

    /// <summary>The same for several apps at once; the cards are read on every processor, with the newest release of each.</summary>
    public IReadOnlyList<(AppId Id, IReadOnlyList<Offer> Offers)> FindAll(IReadOnlyList<AppId> ids, IReadOnlyList<CatalogueName> catalogues)
    {
        if (ids.Count < WorthSharing) return [.. ids.Select(id => (id, Find(id, catalogues)))];
        var lines = ids.Select(Lines).ToList();
        var found = new (AppId Id, IReadOnlyList<Offer> Offers)[ids.Count];
        Parallel.For(0, ids.Count, at =>
        {
            found[at] = (ids[at], InOrder(lines[at].ConvertAll(ReadOffer), catalogues));
            foreach (var offer in found[at].Offers) _ = offer.Card.Releases[0].Artifacts.Count(artifact => artifact.DownloadSize > 0);
        });
        return found;
    }

    /// <summary>The ids of apps in these catalogues whose id or name, folded and run together, is exactly this.</summary>
    public IReadOnlyList<AppId> Named(string squashed, IReadOnlyList<CatalogueName> catalogues) => squashed.Length == 0 ? [] : [.. _database
        .Query(
            "SELECT apps.app, catalogues.name FROM texts JOIN apps ON apps.place = texts.rowid JOIN catalogues ON catalogues.number = apps.catalogue WHERE texts MATCH $1",
            row => (Id: AppId.Parse(row.Text(0)), Catalogue: CatalogueName.Parse(row.Text(1))), $"squashed : \"{squashed}\"")
        .Where(row => catalogues.Contains(row.Catalogue))
        .Select(row => row.Id)
        .Distinct()
        .OrderBy(id => id.Text, StringComparer.Ordinal)];

    /// <summary>Every id in these catalogues.</summary>
    public IReadOnlyList<string> Ids(IReadOnlyList<CatalogueName> catalogues)
    {
        var numbers = catalogues.Select(NumberOf).ToHashSet();
        return [.. _database.Query("SELECT app, catalogue FROM apps", row => (Id: row.Text(0), Catalogue: row.Number(1)))
            .Where(row => numbers.Contains(row.Catalogue)).Select(row => row.Id).Distinct()];
    }

    /// <summary>The ids in these catalogues that may be meant by a name that is not one, the nearest first.</summary>
    public IReadOnlyList<AppId> Nearest(string name, IReadOnlyList<CatalogueName> catalogues, int most)
    {
        var (length, tolerance) = (SearchText.Squash(name).Length, NameDistance.Tolerance(name));
        if (tolerance == 0) return [];

        // The index of all lines is read, which is small; what is in force of the nearest few is looked up after that.
        var ids = _database.Query("SELECT id FROM cards WHERE length(id) BETWEEN $1 AND $2", row => row.Text(0), length - tolerance, length + tolerance + MostJoints);
        return [.. NameDistance.Nearest(name, ids, most * 4).Distinct().Select(AppId.Parse).Where(id => Find(id, catalogues).Count > 0).Take(most)];
    }

    /// <summary>Apps that match, each once.</summary>
    public SearchResults Search(SearchRequest request) => new CardSearch(_database, request).Run();

    /// <inheritdoc/>
    public void Dispose()
    {
        _finding?.Dispose();
        _database.Dispose();
    }

    /// <summary>Reads a card as it is kept.</summary>
    internal static AppCard ReadCard(byte[] line)
    {
        try
        {
            return CardJson.Open(CardPacking.Unpack(line), Damaged);
        }
        catch (InvalidDataException fault)
        {
            throw Damaged(fault);
        }

        static Exception Damaged(Exception fault) =>
            new Problem(ProblemCode.StateNeedsAttention, "the catalogue cache cannot be read", fault.Message, "acrate catalogue refresh").ToException(fault);
    }

    /// <summary>Where a catalogue is in the order of preference.</summary>
    internal static int PositionOf(CatalogueName name, IReadOnlyList<CatalogueName> catalogues)
    {
        for (var at = 0; at < catalogues.Count; at++)
        {
            if (catalogues[at] == name) return at;
        }

        return int.MaxValue;
    }

    private static CatalogueCache Open(string? path, InstallScope scope, bool rebuilt)
    {
        var database = Database.Open(path, scope == InstallScope.Everyone);
        try
        {
            var version = database.Number("PRAGMA user_version");
            if (version is not (0 or CatalogueTables.Version)) throw new InvalidDataException($"cache version {version}");
            if (version == 0) Create(database);
            return new CatalogueCache(database, rebuilt);
        }
        catch
        {
            database.Dispose();
            throw;
        }
    }

    private static void Create(Database database)
    {
        database.Run("PRAGMA journal_mode=WAL");
        using var transaction = database.Begin();
        if (database.Number("PRAGMA user_version") == 0)
        {
            database.Run(CatalogueTables.Create);
            database.Run($"PRAGMA user_version={CatalogueTables.Version}");
        }

        transaction.Commit();
    }

    private static CatalogueCache Rebuild(MachineLayout layout)
    {
        var path = layout.CataloguesFile;
        foreach (var file in new[] { path, path + "-wal", path + "-shm" }) File.Delete(file);
        return Open(path, layout.Scope, rebuilt: true);
    }

    /// <summary>The packed lines of an app, in every catalogue.</summary>
    private List<(CatalogueName Catalogue, string Base, byte[] Line)> Lines(AppId id)
    {
        _finding ??= _database.Prepare("SELECT catalogues.name, base, line FROM cards CROSS JOIN apps ON apps.number = cards.number JOIN catalogues ON catalogues.number = apps.catalogue WHERE cards.id = $1");
        return _finding.Query(row => (CatalogueName.Parse(row.Text(0)), row.Text(1), row.Bytes(2)), id.Text);
    }

    private static Offer ReadOffer((CatalogueName Catalogue, string Base, byte[] Line) row) => new(row.Catalogue, new Uri(row.Base), ReadCard(row.Line));

    private static List<Offer> InOrder(List<Offer> found, IReadOnlyList<CatalogueName> catalogues)
    {
        found.RemoveAll(offer => !catalogues.Contains(offer.Catalogue));
        if (found.Count > 1) found.Sort((left, right) => PositionOf(left.Catalogue, catalogues).CompareTo(PositionOf(right.Catalogue, catalogues)));
        return found;
    }

    private long NumberOf(CatalogueName name) => _database.Number("SELECT number FROM catalogues WHERE name = $1", name.Text);

    private static string Time(DateTimeOffset time) => time.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture);
}
