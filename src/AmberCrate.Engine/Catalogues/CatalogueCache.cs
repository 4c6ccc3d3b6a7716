using System.Collections.Concurrent;
using System.Globalization;
using System.Runtime.ExceptionServices;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Rights;
using AmberCrate.Engine.Running;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// What the catalogues offer, in a local database with full-text search. Everything in it can be fetched again: where
/// it is damaged or from another version, it is made anew and empty.
/// </summary>
public sealed class CatalogueCache : IDisposable
{
    private const int WorthSharing = 32, AtATime = 16;
    private const string TimeLayout = "yyyy-MM-dd'T'HH:mm:ss.fff'Z'";

    private readonly string? _path;
    private readonly Dictionary<RegisteredCatalogue, CatalogueState?> _states = [];
    private readonly Dictionary<long, Place> _places = [];

    private Database _database;
    private bool _isToRead;
    private Statement? _finding;

    private CatalogueCache(string? path, Database database, bool toRead, bool rebuilt) => (_path, _database, _isToRead, WasRebuilt) = (path, database, toRead, rebuilt);

    /// <summary>Whether the database was unusable and has been made anew.</summary>
    public bool WasRebuilt { get; }

    /// <summary>Whether the database is unusable and cannot be made anew with these rights: nothing is known of any catalogue then.</summary>
    public bool IsUnreadable { get; private init; }

    /// <summary>Opens the cache of a root.</summary>
    /// <param name="layout">The root.</param>
    /// <param name="create">Whether to create it where missing; otherwise a missing one reads as empty.</param>
    /// <exception cref="ProblemException">It cannot be opened or made.</exception>
    public static CatalogueCache Open(MachineLayout layout, bool create)
    {
        var isThere = File.Exists(layout.CataloguesFile);
        var path = create || isThere ? layout.CataloguesFile : null;
        try
        {
            try
            {
                return Open(path, isThere, rebuilt: false);
            }
            catch (Exception fault) when (fault is DatabaseException { IsDamage: true } or InvalidDataException)
            {
                return create || FolderRights.CanWriteCache(layout) ? Rebuild(layout) : new CatalogueCache(null, InMemory(), toRead: false, rebuilt: false) { IsUnreadable = true };
            }
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw IoProblems.Of(fault, $"the catalogue cache {layout.CataloguesFile} cannot be opened").ToException(fault);
        }
    }

    /// <summary>Throws the cache away where an exception tells that it is damaged: what is in it can be fetched again, and would be found damaged again.</summary>
    /// <returns>What to say; null where the exception is about something else, or the cache cannot be removed.</returns>
    public static Problem? DiscardDamaged(Exception exception)
    {
        if (exception is not DatabaseException { IsDamage: true, File: var file } || Path.GetFileName(file) != MachineLayout.CataloguesName) return null;
        try
        {
            Discard(file);
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            return null;
        }

        return new Problem(ProblemCode.StateNeedsAttention, "the catalogue cache was damaged", $"{file} has been thrown away; everything in it can be fetched again", "run the same command again: it fetches catalogue data on the way");
    }

    /// <summary>What is known of a catalogue at a location; null where it was never fetched from there.</summary>
    public CatalogueState? StateOf(RegisteredCatalogue catalogue)
    {
        if (_states.TryGetValue(catalogue, out var known)) return known;
        var found = Reading(() => _database.Query(
            "SELECT name, title, base, mark, refreshed, apps, tried FROM catalogues WHERE name = $1 AND location = $2",
            row => new CatalogueState(
                CatalogueName.Parse(row.Text(0)), row.Text(1), new Uri(row.Text(2)), row.IsNull(3) ? null : row.Text(3), Time(row.Text(4)), row.Small(5), Time(row.Text(6))),
            catalogue.Name.Text, catalogue.Location));
        return _states[catalogue] = found.Count > 0 ? found[0] : null;
    }

    /// <summary>Notes that a catalogue was asked and has not changed.</summary>
    public void Touch(CatalogueName name, DateTimeOffset now) => Note("UPDATE catalogues SET refreshed = $2, tried = $2 WHERE name = $1", name, now);

    /// <summary>Notes that a catalogue was asked in vain.</summary>
    public void NoteTried(CatalogueName name, DateTimeOffset now) => Note("UPDATE catalogues SET tried = $2 WHERE name = $1", name, now);

    /// <summary>The keys of the shards that are known of a catalogue at a location.</summary>
    public IReadOnlySet<string> KnownShards(RegisteredCatalogue catalogue) => _database
        .Query("SELECT key FROM shards JOIN catalogues ON catalogues.number = shards.catalogue WHERE name = $1 AND location = $2", row => row.Text(0), catalogue.Name.Text, catalogue.Location)
        .ToHashSet(StringComparer.Ordinal);

    /// <summary>Forgets a catalogue.</summary>
    public void Drop(CatalogueName name)
    {
        Forget();
        using var transaction = ToChange().Begin();
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
        Forget();

        // A commit that a power cut takes back is fetched again; it need not wait for the disk.
        ToChange().Run("PRAGMA synchronous=NORMAL");
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
    public IReadOnlyList<Offer> Find(AppId id, IReadOnlyList<CatalogueName> catalogues) => Reading(() => InOrder(Lines(id).ConvertAll(ReadOffer), catalogues));

    /// <summary>The same for several apps at once; the cards are read on every processor, with the newest release of each or with all.</summary>
    public IReadOnlyList<(AppId Id, IReadOnlyList<Offer> Offers)> FindAll(IReadOnlyList<AppId> ids, IReadOnlyList<CatalogueName> catalogues, bool everyRelease)
    {
        if (ids.Count < WorthSharing) return [.. ids.Select(id => (id, Find(id, catalogues)))];
        var found = new (AppId Id, IReadOnlyList<Offer> Offers)[ids.Count];
        try
        {
            // The database is asked by one thread at a time, while the others read the cards that have come.
            Parallel.ForEach(Partitioner.Create(Chunks(ids), EnumerablePartitionerOptions.NoBuffering), chunk =>
            {
                for (var at = 0; at < chunk.Lines.Count; at++)
                {
                    var offers = Reading(() => InOrder(chunk.Lines[at].ConvertAll(ReadOffer), catalogues));
                    found[chunk.First + at] = (ids[chunk.First + at], offers);
                    foreach (var (_, _, card) in offers)
                    {
                        for (var release = 0; release < (everyRelease ? card.Releases.Count : 1); release++) ReadArtifacts(card.Releases[release]);
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

    /// <summary>Reads what is otherwise read when it is asked for.</summary>
    private static void ReadArtifacts(Release release)
    {
        for (var at = 0; at < release.Artifacts.Count; at++) _ = release.Artifacts[at];
    }

    /// <summary>The ids of apps in these catalogues whose id or name, folded and run together, is exactly this.</summary>
    public IReadOnlyList<AppId> Named(string squashed, IReadOnlyList<CatalogueName> catalogues) => squashed.Length == 0 ? [] : Reading<IReadOnlyList<AppId>>(() => [.. _database
        .Query(
            "SELECT apps.app, catalogues.name FROM texts JOIN apps ON apps.place = texts.rowid JOIN catalogues ON catalogues.number = apps.catalogue WHERE texts MATCH $1",
            row => (Id: AppId.Parse(row.Text(0)), Catalogue: CatalogueName.Parse(row.Text(1))), $"squashed : \"{squashed}\"")
        .Where(row => catalogues.Contains(row.Catalogue))
        .Select(row => row.Id)
        .Distinct()
        .OrderBy(id => id.Text, StringComparer.Ordinal)]);

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
        var pattern = NameDistance.PatternOf(name);
        if (pattern.Most == 0) return [];

        // The index of all lines is read, which is small; what is in force of the nearest few is looked up after that.
        return Reading<IReadOnlyList<AppId>>(() => [.. NameDistance.Nearest(Near(_database, "SELECT id FROM cards", pattern), most * 4).Distinct().Select(AppId.Parse).Where(id => Find(id, catalogues).Count > 0).Take(most)]);
    }

    /// <summary>The texts of a query's first column that are near a pattern. The others are never made into strings.</summary>
    /// <param name="database">The database.</param>
    /// <param name="sql">The query. The texts that are near have from $1 to $2 letters, but for those that do not count.</param>
    /// <param name="pattern">The pattern.</param>
    internal static List<(string Text, int Distance)> Near(Database database, string sql, SpellingPattern pattern)
    {
        var near = new List<(string, int)>();
        database.Each(sql, row =>
        {
            if (pattern.DistanceTo(row.Utf8(0)) is var distance && distance <= pattern.Most) near.Add((row.Text(0), distance));
        }, pattern.Length - pattern.Most, pattern.Length + pattern.Most);
        return near;
    }

    /// <summary>Apps that match, each once.</summary>
    public SearchResults Search(SearchRequest request) => Reading(() => new CardSearch(_database, request).Run());

    /// <inheritdoc/>
    public void Dispose()
    {
        _finding?.Dispose();
        _database.Dispose();
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

    private static CatalogueCache Open(string? path, bool toRead, bool rebuilt)
    {
        var database = toRead ? Database.OpenToRead(path!) : Database.Open(path);
        try
        {
            var version = database.Number("PRAGMA user_version");
            if (version is not (0 or CatalogueTables.Version)) throw new InvalidDataException($"cache version {version}");
            var cache = new CatalogueCache(path, database, toRead, rebuilt);
            if (version == 0) Create(cache.ToChange());
            return cache;
        }
        catch
        {
            database.Dispose();
            throw;
        }
    }

    /// <summary>The database, opened so that it can be changed. Most commands only read it.</summary>
    private Database ToChange()
    {
        if (!_isToRead) return _database;
        _finding?.Dispose();
        _finding = null;
        _database.Dispose();
        try
        {
            _database = Database.Open(_path);
            _isToRead = false;
        }
        catch (DatabaseException)
        {
            _database = Database.OpenToRead(_path!);
            throw;
        }

        return _database;
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

    private static void Discard(string path)
    {
        foreach (var file in (string[])[path, $"{path}-wal", $"{path}-shm"]) File.Delete(file);
    }

    /// <summary>An empty one, for this process alone.</summary>
    private static Database InMemory()
    {
        var database = Database.Open(null);
        Create(database);
        return database;
    }

    private static CatalogueCache Rebuild(MachineLayout layout)
    {
        Discard(layout.CataloguesFile);
        return Open(layout.CataloguesFile, toRead: false, rebuilt: true);
    }

    /// <summary>Reads something that has been checked before it was written: where it cannot be read, the database is damaged.</summary>
    private T Reading<T>(Func<T> read)
    {
        try
        {
            return read();
        }
        catch (Exception fault) when (fault is FormatException or OverflowException)
        {
            throw DatabaseException.Damaged(_path, fault);
        }
    }

    /// <summary>The packed lines of an app, in every catalogue.</summary>
    private List<(Place From, byte[] Line)> Lines(AppId id)
    {
        _finding ??= _database.Prepare("SELECT apps.catalogue, line FROM apps INDEXED BY apps_by_id CROSS JOIN cards ON cards.number = apps.number WHERE apps.app = $1");
        return _finding.Query(row => (PlaceOf(row.Number(0)), row.Bytes(1)), id.Text);
    }

    /// <summary>Which catalogue a number stands for, and against which address its cards' locations are.</summary>
    private Place PlaceOf(long number)
    {
        if (_places.TryGetValue(number, out var known)) return known;
        var found = _database.Query("SELECT name, base FROM catalogues WHERE number = $1", row => new Place(CatalogueName.Parse(row.Text(0)), new Uri(row.Text(1))), number);
        return _places[number] = found.Count > 0 ? found[0] : throw new FormatException($"there is no catalogue {number}");
    }

    private sealed record Place(CatalogueName Name, Uri Base);

    private Offer ReadOffer((Place From, byte[] Line) row) => new(row.From.Name, row.From.Base, ReadCard(row.Line));

    /// <summary>Reads a card as it is kept.</summary>
    private AppCard ReadCard(byte[] line)
    {
        try
        {
            return CardJson.Open(CardPacking.Unpack(line), fault => DatabaseException.Damaged(_path, fault));
        }
        catch (InvalidDataException fault)
        {
            throw DatabaseException.Damaged(_path, fault);
        }
    }

    private static List<Offer> InOrder(List<Offer> found, IReadOnlyList<CatalogueName> catalogues)
    {
        found.RemoveAll(offer => !catalogues.Contains(offer.Catalogue));
        if (found.Count > 1) found.Sort((left, right) => PositionOf(left.Catalogue, catalogues).CompareTo(PositionOf(right.Catalogue, catalogues)));
        return found;
    }

    /// <summary>What was remembered of the database is about to change.</summary>
    private void Forget()
    {
        _states.Clear();
        _places.Clear();
    }

    private long NumberOf(CatalogueName name) => _database.Number("SELECT number FROM catalogues WHERE name = $1", name.Text);

    private void Note(string sql, CatalogueName name, DateTimeOffset now)
    {
        Forget();
        ToChange().Run(sql, name.Text, Time(now));
    }

    private static string Time(DateTimeOffset time) => time.UtcDateTime.ToString(TimeLayout, CultureInfo.InvariantCulture);

    /// <summary>
    /// Reads a time as it is written above, by hand: the general parser would take longer than the rest of a short command's reading. What is none
    /// is taken for long ago, so that the catalogue is asked again.
    /// </summary>
    private static DateTimeOffset Time(string text)
    {
        try
        {
            return new DateTimeOffset(Part(0, 4), Part(5, 2), Part(8, 2), Part(11, 2), Part(14, 2), Part(17, 2), Part(20, 3), TimeSpan.Zero);
        }
        catch (Exception fault) when (fault is FormatException or ArgumentOutOfRangeException)
        {
            return DateTimeOffset.UnixEpoch;
        }

        int Part(int at, int length) => int.Parse(text.AsSpan(at, length), NumberStyles.None, CultureInfo.InvariantCulture);
    }
}
