using System.Globalization;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// What the catalogues offer, in a local database with full-text search. Everything in it can be downloaded again: where
/// it is damaged or from another version, it is replaced by an empty one.
/// </summary>
public sealed class CatalogueCache : IDisposable
{
    private const string TimeLayout = "yyyy-MM-dd'T'HH:mm:ss.fff'Z'";

    private readonly string? _path;
    private readonly Dictionary<RegisteredCatalogue, CatalogueState?> _states = [];

    private Database _database;
    private bool _isToRead;
    private readonly bool _isPrivate;
    private CachedCards? _cards;

    private CatalogueCache(string? path, Database database, bool toRead, bool isPrivate, bool rebuilt) =>
        (_path, _database, _isToRead, _isPrivate, WasRebuilt) = (path, database, toRead, isPrivate, rebuilt);

    /// <summary>Whether the database was unusable and has been replaced.</summary>
    public bool WasRebuilt { get; }

    /// <summary>
    /// Whether the database is unusable and cannot be replaced with these rights: then there are no data of any catalogue.
    /// </summary>
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
                return Open(path, isThere, layout.Scope == InstallScope.AllUsers, rebuilt: false);
            }
            catch (Exception fault) when (fault is DatabaseException { IsDamage: true } or InvalidDataException)
            {
                return create || layout.CanWriteCache
                    ? Rebuild(layout)
                    : new CatalogueCache(null, InMemory(), toRead: false, isPrivate: false, rebuilt: false)
                    {
                        IsUnreadable = true,
                    };
            }
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            throw IoProblems.ToProblem(fault, $"the catalogue cache {layout.CataloguesFile} cannot be opened").ToException(fault);
        }
    }

    /// <summary>
    /// Throws the cache away where an exception says that it is damaged: what is in it can be downloaded again, and would be
    /// found damaged again.
    /// </summary>
    /// <returns>What to say; null where the exception is about something else, or the cache cannot be removed.</returns>
    public static Problem? DiscardDamaged(Exception exception)
    {
        if (exception is not DatabaseException { IsDamage: true, File: var file }
            || Path.GetFileName(file) != DatabaseRepair.CataloguesName) return null;
        try
        {
            Discard(file);
        }
        catch (Exception fault) when (fault is IOException or UnauthorizedAccessException)
        {
            return null;
        }

        return new Problem(
            ProblemCode.StateNeedsAttention, "the catalogue cache was damaged",
            $"{file} has been deleted; everything in it can be downloaded again",
            "run the command again: it downloads the catalogue data");
    }

    /// <summary>The data of a catalogue at a location; null where it was never fetched from there.</summary>
    public CatalogueState? StateOf(RegisteredCatalogue catalogue)
    {
        if (_states.TryGetValue(catalogue, out var known)) return known;
        var found = DatabaseException.Reading(_path, () => _database.Query(
            "SELECT name, title, base, mark, refreshed, apps, tried, machines, frozen, fault FROM catalogues WHERE name = $1 "
                + "AND location = $2",
            row => new CatalogueState(
                CatalogueName.Parse(row.Text(0)), row.Text(1), new Uri(row.Text(2)), row.IsNull(3) ? null : row.Text(3),
                Time(row.Text(4)), row.Small(5), Time(row.Text(6)))
            {
                Machines = row.Small(7), Frozen = FrozenIn(row.Text(8)),
                Fault = row.IsNull(9) ? null : ProblemWords.Codes.Read(row.Text(9)),
            },
            catalogue.Name.Text, catalogue.Location));
        return _states[catalogue] = found.Count > 0 ? found[0] : null;
    }

    /// <summary>Notes that a catalogue was asked and has not changed. What this program brings itself may have.</summary>
    public void Touch(CatalogueName name, DateTimeOffset now)
    {
        Note("UPDATE catalogues SET refreshed = $2, tried = $2, fault = NULL WHERE name = $1", name, now);
        var purposes = new KnownPurposes(_database);
        if (purposes.IsOurOwn()) return;
        using var transaction = _database.Begin();
        purposes.TakeOwn();
        transaction.Commit();
    }

    /// <summary>Notes that a catalogue was asked in vain.</summary>
    /// <param name="name">The catalogue.</param>
    /// <param name="now">The time.</param>
    /// <param name="why">What went wrong.</param>
    public void NoteTried(CatalogueName name, DateTimeOffset now, ProblemCode why) => Note(
        $"UPDATE catalogues SET tried = $2, fault = '{ProblemWords.Codes.WordOf(why)}' WHERE name = $1", name, now);

    /// <summary>The keys of the cached parts of a catalogue at a location.</summary>
    public IReadOnlySet<string> KnownParts(RegisteredCatalogue catalogue) => _database
        .Query(
            "SELECT key FROM parts JOIN catalogues ON catalogues.number = parts.catalogue WHERE name = $1 AND location = $2",
            row => row.Text(0), catalogue.Name.Text, catalogue.Location)
        .ToHashSet(StringComparer.Ordinal);

    /// <summary>The parts that the cache has from another maintainer of a catalogue, with their layers.</summary>
    public IReadOnlyList<(Sha256Digest Key, int Layer)> PartsOf(RegisteredCatalogue catalogue, PartMaintainer maintainer) =>
        _database.Query(
            "SELECT key, layer FROM parts JOIN catalogues ON catalogues.number = parts.catalogue WHERE name = $1 AND "
                + "location = $2 "
                + "AND maintainer = $3 AND parts.mark = $4 ORDER BY layer",
            row => (Sha256Digest.Parse(row.Text(0)), row.Small(1)), catalogue.Name.Text, catalogue.Location, maintainer.Name,
            maintainer.Mark);

    /// <summary>The keys of the parts that hold what is in force of apps.</summary>
    /// <param name="name">The catalogue.</param>
    /// <param name="apps">The apps.</param>
    public IReadOnlySet<string> PartsOf(CatalogueName name, IEnumerable<AppId> apps)
    {
        var wanted = "[" + string.Join(',', apps.Select(app => $"\"{app}\"")) + "]";
        return _database
            .Query(
                "SELECT DISTINCT parts.key FROM cards JOIN parts ON parts.number = cards.part JOIN catalogues ON "
                    + "catalogues.number = parts.catalogue JOIN apps ON apps.number = cards.number "
                    + "WHERE catalogues.name = $1 AND cards.id IN (SELECT value FROM json_each($2))",
                row => row.Text(0), name.Text, wanted)
            .ToHashSet(StringComparer.Ordinal);
    }

    /// <summary>The digests of the cached bundles of a catalogue at a location.</summary>
    public IReadOnlySet<string> KnownBundles(RegisteredCatalogue catalogue) => _database
        .Query(
            "SELECT sha256 FROM bundles JOIN catalogues ON catalogues.number = bundles.catalogue "
                + "WHERE catalogues.name = $1 AND location = $2",
            row => row.Text(0), catalogue.Name.Text, catalogue.Location)
        .ToHashSet(StringComparer.Ordinal);

    /// <summary>The bundles that these catalogues carry, in their order and by name.</summary>
    public IReadOnlyList<CarriedBundle> Bundles(IReadOnlyList<CatalogueName> catalogues) =>
        DatabaseException.Reading<IReadOnlyList<CarriedBundle>>(_path, () => [.. _database
            .Query(
                "SELECT catalogues.name, bundles.name, content FROM bundles "
                    + "JOIN catalogues ON catalogues.number = bundles.catalogue ORDER BY bundles.name",
                row => new CarriedBundle(CatalogueName.Parse(row.Text(0)), row.Text(1), row.Bytes(2)))
            .Where(bundle => catalogues.Contains(bundle.Catalogue))
            .OrderBy(bundle => CachedCards.PositionOf(bundle.Catalogue, catalogues))]);

    /// <summary>Forgets a catalogue.</summary>
    public void Drop(CatalogueName name)
    {
        Forget();
        using var transaction = ToChange().Begin();
        if (NumberOf(name) is > 0 and var number)
        {
            new CatalogueImport(_database, name, number, isFolder: false).Clear();
            new KnownPurposes(_database).Drop(number);
            _database.Run("DELETE FROM catalogues WHERE number = $1", number);
        }

        transaction.Commit();
    }

    /// <summary>
    /// Takes a catalogue over. Only parts that are new are read; readers see the old state until all is there, and for good if
    /// anything fails.
    /// </summary>
    /// <param name="catalogue">The catalogue.</param>
    /// <param name="snapshot">What is at its location now.</param>
    /// <param name="read">Reads the bytes of a new part, which have been fetched before. Called from several threads.</param>
    /// <param name="bundles">The text of each new bundle, by its digest.</param>
    /// <param name="now">The time.</param>
    /// <param name="cancel">Stops, and leaves the old state.</param>
    /// <returns>How many parts were read.</returns>
    /// <exception cref="ProblemException">A part cannot be unpacked or has a faulty line.</exception>
    public int Store(
        RegisteredCatalogue catalogue,
        CatalogueSnapshot snapshot,
        Func<PartContent, byte[]> read,
        IReadOnlyDictionary<string, byte[]> bundles,
        DateTimeOffset now,
        CancellationToken cancel)
    {
        var name = catalogue.Name;
        var atSameLocation = StateOf(catalogue) is not null;
        Forget();

        // A commit that a power cut takes back is fetched again; it need not wait for the disk.
        ToChange().Run("PRAGMA synchronous=NORMAL");
        using var transaction = _database.Begin();
        _database.Run(
            "INSERT INTO catalogues(name, location, title, base, refreshed, apps, tried) VALUES($1, $2, '', '', $3, 0, $3) ON "
                + "CONFLICT(name) DO UPDATE SET location = excluded.location",
            name.Text, catalogue.Location, Time(now));
        var number = NumberOf(name);
        var import = new CatalogueImport(_database, name, number, snapshot.Base.IsFile);
        if (!atSameLocation) import.Clear();
        var added = import.Run(snapshot.Parts, read, cancel);
        import.TakeBundles(snapshot.Bundles, bundles);
        import.TakePopularity(snapshot.Popularity);
        new KnownPurposes(_database).ReplacePurposes(number, snapshot.Settings.Purposes);
        var apps =
            _database.Number(
                "SELECT COUNT(*) FROM texts WHERE texts MATCH $1", $"marks : \"{FilterTokens.OfCatalogue(number)}\"");
        if (snapshot.Apps is not null && apps != snapshot.Apps)
            throw new Problem(
                ProblemCode.NotVerified, $"the catalogue {name} is not whole",
                $"{snapshot.Apps} apps were announced, {apps} are there",
                "tell its maintainer; the previous data are still in use").ToException();
        _database.Run(
            "UPDATE catalogues SET title = $2, base = $3, mark = $4, refreshed = $5, apps = $6, tried = $5, "
                + "fault = NULL, frozen = $7 "
                + "WHERE "
                + "number = $1",
            number, snapshot.Settings.Title, snapshot.Base.AbsoluteUri, snapshot.Mark, Time(now), apps,
            Frozen(number, snapshot));
        cancel.ThrowIfCancellationRequested();
        transaction.Commit();
        return added;
    }

    /// <summary>The offers of an app in these catalogues, in their order.</summary>
    public IReadOnlyList<Offer> Find(AppId id, IReadOnlyList<CatalogueName> catalogues) => Cards.Find(id, catalogues);

    /// <summary>
    /// The same for several apps at once; the cards are read on every processor, with the newest release of each or with all.
    /// </summary>
    public IReadOnlyList<(AppId Id, IReadOnlyList<Offer> Offers)> FindAll(
        IReadOnlyList<AppId> ids,
        IReadOnlyList<CatalogueName> catalogues,
        bool everyRelease) => Cards.FindAll(ids, catalogues, everyRelease);

    /// <summary>The newest releases of apps in their catalogues; apps that are not there are left out.</summary>
    /// <param name="apps">The apps, each with its catalogue.</param>
    public IReadOnlyDictionary<AppId, string> Glance(IReadOnlyCollection<(AppId Id, CatalogueName Catalogue)> apps) =>
        Cards.Glance(apps);

    /// <summary>
    /// The names of apps in the first language that their catalogue names them in; the others are left out.
    /// </summary>
    /// <param name="apps">The apps, each with its catalogue.</param>
    /// <param name="languages">The languages, in order of preference.</param>
    public IReadOnlyDictionary<AppId, string> LocalNames(
        IReadOnlyCollection<(AppId Id, CatalogueName Catalogue)> apps, IReadOnlyList<string> languages) =>
        languages.Count == 0 ? new Dictionary<AppId, string>() : Cards.LocalNames(apps, languages);

    /// <summary>The ids of apps in these catalogues whose id or name, folded and run together, is exactly this.</summary>
    public IReadOnlyList<AppId> Named(string squashed, IReadOnlyList<CatalogueName> catalogues) =>
        Cards.Named(squashed, catalogues);

    /// <summary>Ids in these catalogues that begin in a certain way, in order.</summary>
    /// <param name="beginning">How they begin.</param>
    /// <param name="catalogues">The catalogues.</param>
    /// <param name="most">The most that are of use.</param>
    public IReadOnlyList<string> IdsFrom(string beginning, IReadOnlyList<CatalogueName> catalogues, int most) =>
        Cards.IdsFrom(beginning, catalogues, most);

    /// <summary>The ids in these catalogues that a mistyped name may mean, the nearest first.</summary>
    public IReadOnlyList<AppId> Nearest(string name, IReadOnlyList<CatalogueName> catalogues, int most) =>
        Cards.Nearest(name, catalogues, most);

    /// <summary>Apps that match, each once.</summary>
    public SearchResults Search(IndexQuery request) =>
        DatabaseException.Reading(_path, () =>
        {
            using var search = new CardSearch(_database, request);
            return search.Run();
        });

    /// <summary>The apps in these catalogues that have one of some signs, in the order of the catalogues.</summary>
    /// <param name="signs">Signs as <see cref="SoftwareFingerprints"/> makes them.</param>
    /// <param name="catalogues">The catalogues, in order of preference.</param>
    public IReadOnlyList<RecognisedApp> Recognise(IReadOnlyCollection<string> signs, IReadOnlyList<CatalogueName> catalogues) =>
        signs.Count == 0 ? [] : DatabaseException.Reading<IReadOnlyList<RecognisedApp>>(_path, () => [.. _database
            .Query(
                "SELECT signs.sign, apps.app, catalogues.name, apps.releases FROM json_each($1) AS wanted "
                    + "JOIN signs ON signs.sign = wanted.value JOIN apps ON apps.number = signs.number "
                    + "JOIN catalogues ON catalogues.number = apps.catalogue",
                row => new RecognisedApp(
                    row.Text(0), AppId.Parse(row.Text(1)), CatalogueName.Parse(row.Text(2)), row.Text(3)),
                JsonText.Array(signs))
            .Where(found => catalogues.Contains(found.Catalogue))
            .OrderBy(found => CachedCards.PositionOf(found.Catalogue, catalogues))
            .ThenBy(found => found.App.Text, StringComparer.Ordinal)]);

    /// <inheritdoc/>
    public void Dispose()
    {
        LeaveCards();
        _database.Dispose();
    }

    private CachedCards Cards => _cards ??= new CachedCards(_database, _path);

    private static CatalogueCache Open(string? path, bool toRead, bool isPrivate, bool rebuilt)
    {
        var database = toRead ? Database.OpenToRead(path!) : Database.Open(path, isPrivate);
        try
        {
            var version = database.Number("PRAGMA user_version");
            if (version is not (0 or CatalogueTables.Version)) throw new InvalidDataException($"cache version {version}");
            var cache = new CatalogueCache(path, database, toRead, isPrivate, rebuilt);
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
        LeaveCards();
        _database.Dispose();
        try
        {
            _database = Database.Open(_path, _isPrivate);
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
        return Open(layout.CataloguesFile, toRead: false, layout.Scope == InstallScope.AllUsers, rebuilt: true);
    }

    /// <summary>What was remembered of the database is about to change.</summary>
    private void Forget()
    {
        _states.Clear();
        LeaveCards();
    }

    private void LeaveCards()
    {
        _cards?.Dispose();
        _cards = null;
    }

    /// <summary>Whose apps are not up to date with the catalogue, and why: pairs of texts in a JSON array.</summary>
    private string Frozen(long number, CatalogueSnapshot snapshot)
    {
        var faulty = _database.Query(
            "SELECT maintainer, MIN(fault) FROM parts WHERE catalogue = $1 AND fault IS NOT NULL GROUP BY maintainer "
                + "ORDER BY maintainer",
            row => (Name: row.Text(0), Why: row.Text(1)), number);
        return JsonText.Array(snapshot.Frozen.Select(one => (one.Maintainer.Name, one.Why)).Concat(faulty)
            .DistinctBy(one => one.Item1).SelectMany(one => new[] { one.Item1, one.Item2 }));
    }

    private static IReadOnlyList<FrozenApps> FrozenIn(string text) =>
        [.. JsonText.Texts(text).Chunk(2).Where(pair => pair.Length == 2).Select(pair => new FrozenApps(pair[0], pair[1]))];

    private long NumberOf(CatalogueName name) => _database.Number("SELECT number FROM catalogues WHERE name = $1", name.Text);

    private void Note(string sql, CatalogueName name, DateTimeOffset now)
    {
        Forget();

        // Nobody need wait for the disk: where a power cut takes this back, the log is seen to be cut off, and the catalogue is
        // asked again. What is
        // written to the database itself, when it is closed, waits again.
        ToChange().Run("PRAGMA synchronous=OFF");
        _database.Run(sql, name.Text, Time(now));
        _database.Run("PRAGMA synchronous=NORMAL");
    }

    private static string Time(DateTimeOffset time) => time.UtcDateTime.ToString(TimeLayout, CultureInfo.InvariantCulture);

    /// <summary>
    /// Reads a time as it is written above, by hand: the general parser would take longer than the rest of a short command's
    /// reading. What cannot be read counts as long ago, so that the catalogue is asked again.
    /// </summary>
    private static DateTimeOffset Time(string text)
    {
        try
        {
            return new DateTimeOffset(
                Part(0, 4), Part(5, 2), Part(8, 2), Part(11, 2), Part(14, 2), Part(17, 2), Part(20, 3), TimeSpan.Zero);
        }
        catch (Exception fault) when (fault is FormatException or ArgumentOutOfRangeException)
        {
            return DateTimeOffset.UnixEpoch;
        }

        int Part(int at, int length) => int.Parse(text.AsSpan(at, length), NumberStyles.None, CultureInfo.InvariantCulture);
    }
}
