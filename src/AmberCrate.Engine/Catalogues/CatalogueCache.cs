using System.Globalization;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Running;
using Microsoft.Data.Sqlite;

namespace AmberCrate.Engine.Catalogues;

/// <summary>
/// What the catalogues offer, in a local database with full-text search. Everything in it can be fetched again: where
/// it is damaged or from another version, it is made anew and empty.
/// </summary>
public sealed class CatalogueCache : IDisposable
{
    /// <summary>The version of the tables; another one is thrown away.</summary>
    public const int SchemaVersion = 2;

    private const int Candidates = 400;

    private const string Schema = """
        CREATE TABLE catalogues(name TEXT PRIMARY KEY, location TEXT NOT NULL, title TEXT NOT NULL, base TEXT NOT NULL, mark TEXT,
            refreshed TEXT NOT NULL, apps INTEGER NOT NULL, tried TEXT NOT NULL) STRICT;
        CREATE TABLE shards(catalogue TEXT NOT NULL, key TEXT NOT NULL, PRIMARY KEY(catalogue, key)) STRICT, WITHOUT ROWID;
        CREATE TABLE apps(number INTEGER PRIMARY KEY, catalogue TEXT NOT NULL, shard TEXT NOT NULL, id TEXT NOT NULL,
            squashed_id TEXT NOT NULL, squashed_name TEXT NOT NULL, card BLOB NOT NULL) STRICT;
        CREATE UNIQUE INDEX apps_by_id ON apps(id, catalogue);
        CREATE INDEX apps_by_shard ON apps(catalogue, shard);
        CREATE INDEX apps_by_squashed_id ON apps(squashed_id);
        CREATE INDEX apps_by_squashed_name ON apps(squashed_name);
        CREATE VIRTUAL TABLE texts USING fts5(id, name, squashed, keywords, categories, developer, summary, kind UNINDEXED, reviewed UNINDEXED,
            tokenize='unicode61 remove_diacritics 0');
        """;

    private readonly Database _database;

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
                return Open(path, rebuilt: false);
            }
            catch (SqliteException damaged) when (damaged.SqliteErrorCode is 11 or 26)
            {
                return Rebuild(layout.CataloguesFile);
            }
            catch (InvalidDataException)
            {
                return Rebuild(layout.CataloguesFile);
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
            CatalogueName.Parse(row.GetString(0)), row.GetString(1), new Uri(row.GetString(2)), row.IsDBNull(3) ? null : row.GetString(3),
            DateTimeOffset.Parse(row.GetString(4), CultureInfo.InvariantCulture), row.GetInt32(5), DateTimeOffset.Parse(row.GetString(6), CultureInfo.InvariantCulture)),
        catalogue.Name.Text, catalogue.Location).FirstOrDefault();

    /// <summary>Notes that a catalogue was asked and has not changed.</summary>
    public void Touch(CatalogueName name, DateTimeOffset now) => _database.Run("UPDATE catalogues SET refreshed = $2, tried = $2 WHERE name = $1", name.Text, Time(now));

    /// <summary>Notes that a catalogue was asked in vain.</summary>
    public void NoteTried(CatalogueName name, DateTimeOffset now) => _database.Run("UPDATE catalogues SET tried = $2 WHERE name = $1", name.Text, Time(now));

    /// <summary>The keys of the shards that are known of a catalogue at a location.</summary>
    public IReadOnlySet<string> KnownShards(RegisteredCatalogue catalogue) => StateOf(catalogue) is null ? new HashSet<string>() : _database
        .Query("SELECT key FROM shards WHERE catalogue = $1", row => row.GetString(0), catalogue.Name.Text).ToHashSet(StringComparer.Ordinal);

    /// <summary>Forgets a catalogue.</summary>
    public void Drop(CatalogueName name)
    {
        using var transaction = _database.Begin();
        Clear(name);
        transaction.Commit();
    }

    /// <summary>Takes a catalogue over. Only shards that are new are read; readers see the old state until all is there, and for good if anything fails.</summary>
    /// <param name="catalogue">The catalogue.</param>
    /// <param name="snapshot">What is at its location now.</param>
    /// <param name="read">Reads the bytes of a new shard, which have been fetched before.</param>
    /// <param name="now">The time.</param>
    /// <param name="cancel">Stops, and leaves the old state.</param>
    /// <returns>How many shards were read.</returns>
    /// <exception cref="ProblemException">A shard cannot be unpacked or holds a faulty card.</exception>
    public int Store(RegisteredCatalogue catalogue, CatalogueSnapshot snapshot, Func<ShardContent, byte[]> read, DateTimeOffset now, CancellationToken cancel)
    {
        var name = catalogue.Name;
        var sameLocation = StateOf(catalogue) is not null;
        using var transaction = _database.Begin();
        if (!sameLocation) Clear(name);
        var known = _database.Query("SELECT key FROM shards WHERE catalogue = $1", row => row.GetString(0), name.Text).ToHashSet();
        var wanted = snapshot.Shards.Select(shard => shard.Key.Hex).ToHashSet();
        foreach (var gone in known.Where(key => !wanted.Contains(key))) ClearShard(name, gone);
        var added = snapshot.Shards.Where(shard => !known.Contains(shard.Key.Hex)).ToList();
        foreach (var shard in added)
        {
            cancel.ThrowIfCancellationRequested();
            AddShard(name, shard, shard.Unpack(read(shard)));
        }

        _database.Run(
            "INSERT OR REPLACE INTO catalogues VALUES($1, $2, $3, $4, $5, $6, $7, $6)",
            name.Text, catalogue.Location, snapshot.Settings.Title, snapshot.Base.AbsoluteUri, snapshot.Mark, Time(now), snapshot.Shards.Sum(shard => shard.Apps));
        cancel.ThrowIfCancellationRequested();
        transaction.Commit();
        return added.Count;
    }

    /// <summary>The offers of an app in these catalogues, in their order.</summary>
    public IReadOnlyList<Offer> Find(AppId id, IReadOnlyList<CatalogueName> catalogues) => [.. _database
        .Query("SELECT apps.catalogue, base, card FROM apps JOIN catalogues ON catalogues.name = apps.catalogue WHERE id = $1", ReadOffer, id.Text)
        .Where(offer => catalogues.Contains(offer.Catalogue))
        .OrderBy(offer => Position(catalogues, offer.Catalogue))];

    /// <summary>The ids of apps in these catalogues whose id or name, folded and run together, is exactly this.</summary>
    public IReadOnlyList<AppId> Named(string squashed, IReadOnlyList<CatalogueName> catalogues) => [.. _database
        .Query(
            "SELECT id, catalogue FROM apps WHERE squashed_id = $1 UNION SELECT id, catalogue FROM apps WHERE squashed_name = $1 ORDER BY id",
            row => (Id: AppId.Parse(row.GetString(0)), Catalogue: CatalogueName.Parse(row.GetString(1))), squashed)
        .Where(row => catalogues.Contains(row.Catalogue))
        .Select(row => row.Id)
        .Distinct()];

    /// <summary>Every id in these catalogues.</summary>
    public IEnumerable<string> Ids(IReadOnlyList<CatalogueName> catalogues)
    {
        var names = catalogues.Select(name => name.Text).ToHashSet();
        return _database.Query("SELECT DISTINCT id, catalogue FROM apps", row => (Id: row.GetString(0), Catalogue: row.GetString(1)))
            .Where(row => names.Contains(row.Catalogue)).Select(row => row.Id).Distinct();
    }

    /// <summary>Apps that match a query, best first, each once.</summary>
    /// <param name="query">The query.</param>
    /// <param name="catalogues">The catalogues to look in, in order of preference.</param>
    public IReadOnlyList<SearchResult> Search(SearchQuery query, IReadOnlyList<CatalogueName> catalogues)
    {
        if (query.Words.Count == 0) return [];
        var found = _database.Query(
            """
            SELECT apps.catalogue, base, card, texts.kind, texts.reviewed, texts.id, texts.name, texts.keywords, texts.categories, texts.developer, texts.summary
            FROM texts JOIN apps ON apps.number = texts.rowid JOIN catalogues ON catalogues.name = apps.catalogue
            WHERE texts MATCH $1 ORDER BY bm25(texts, 10, 10, 10, 5, 3, 2, 1) LIMIT $2
            """,
            row => (Catalogue: row.GetString(0), Row: ReadSearchRow(row)),
            Match(query), Candidates);
        return [.. found
            .Where(row => catalogues.Any(name => name.Text == row.Catalogue))
            .Select(row => (row.Row.Base, row.Row.Card, row.Catalogue, row.Row.Entry, Match: SearchRanking.Judge(query, row.Row.Entry)))
            .Where(row => row.Match is not null)
            .OrderByDescending(row => row.Match!.Weight)
            .ThenBy(row => row.Entry.Id, StringComparer.Ordinal)
            .ThenBy(row => Position(catalogues, CatalogueName.Parse(row.Catalogue)))
            .DistinctBy(row => row.Entry.Id)
            .Select(row => new SearchResult(new Offer(CatalogueName.Parse(row.Catalogue), new Uri(row.Base), ReadCard(row.Card)), row.Match!))];
    }

    /// <inheritdoc/>
    public void Dispose() => _database.Dispose();

    private static CatalogueCache Open(string? path, bool rebuilt)
    {
        var database = Database.Open(path);
        try
        {
            database.Run("PRAGMA journal_mode=WAL");
            database.Run("PRAGMA synchronous=NORMAL");
            var version = database.Number("PRAGMA user_version");
            if (version is not (0 or SchemaVersion)) throw new InvalidDataException($"cache version {version}");
            if (version == 0)
            {
                using var transaction = database.Begin();
                if (database.Number("PRAGMA user_version") == 0)
                {
                    database.Run(Schema);
                    database.Run($"PRAGMA user_version={SchemaVersion}");
                }

                transaction.Commit();
            }

            return new CatalogueCache(database, rebuilt);
        }
        catch
        {
            database.Dispose();
            throw;
        }
    }

    private static CatalogueCache Rebuild(string path)
    {
        foreach (var file in new[] { path, path + "-wal", path + "-shm" }) File.Delete(file);
        return Open(path, rebuilt: true);
    }

    /// <summary>Every word as a prefix in any column, or the words run together at the beginning of a run-together name.</summary>
    private static string Match(SearchQuery query)
    {
        // Folded words hold letters and digits only, so that quoting them is all the escaping there is.
        var words = new StringBuilder();
        foreach (var word in query.Words) words.Append(words.Length > 0 ? " AND " : "").Append('"').Append(word).Append("\"*");
        return $"({words}) OR squashed : \"{query.Squashed}\"*";
    }

    private static (string Base, byte[] Card, SearchEntry Entry) ReadSearchRow(SqliteDataReader row) => (
        row.GetString(1),
        row.GetFieldValue<byte[]>(2),
        new SearchEntry(
            (AppKind)row.GetInt32(3), row.GetInt32(4) != 0, row.GetString(5), row.GetString(6), row.GetString(7), row.GetString(8), row.GetString(9), row.GetString(10)));

    private static Offer ReadOffer(SqliteDataReader row) =>
        new(CatalogueName.Parse(row.GetString(0)), new Uri(row.GetString(1)), ReadCard(row.GetFieldValue<byte[]>(2)));

    private static AppCard ReadCard(byte[] line)
    {
        try
        {
            return CardJson.Read(line);
        }
        catch (FormatException fault)
        {
            throw new Problem(ProblemCode.StateNeedsAttention, "the catalogue cache cannot be read", fault.Message, "acrate catalogue refresh").ToException(fault);
        }
    }

    private static int Position(IReadOnlyList<CatalogueName> catalogues, CatalogueName name)
    {
        for (var at = 0; at < catalogues.Count; at++)
        {
            if (catalogues[at] == name) return at;
        }

        return int.MaxValue;
    }

    private static string Time(DateTimeOffset time) => time.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture);

    private void Clear(CatalogueName name)
    {
        _database.Run("DELETE FROM texts WHERE rowid IN (SELECT number FROM apps WHERE catalogue = $1)", name.Text);
        _database.Run("DELETE FROM apps WHERE catalogue = $1", name.Text);
        _database.Run("DELETE FROM shards WHERE catalogue = $1", name.Text);
        _database.Run("DELETE FROM catalogues WHERE name = $1", name.Text);
    }

    private void ClearShard(CatalogueName name, string key)
    {
        _database.Run("DELETE FROM texts WHERE rowid IN (SELECT number FROM apps WHERE catalogue = $1 AND shard = $2)", name.Text, key);
        _database.Run("DELETE FROM apps WHERE catalogue = $1 AND shard = $2", name.Text, key);
        _database.Run("DELETE FROM shards WHERE catalogue = $1 AND key = $2", name.Text, key);
    }

    private void AddShard(CatalogueName name, ShardContent shard, byte[] content)
    {
        using var addApp = _database.Prepare("INSERT INTO apps(number, catalogue, shard, id, squashed_id, squashed_name, card) VALUES($1, $2, $3, $4, $5, $6, $7)", 7);
        using var addText = _database.Prepare("INSERT INTO texts(rowid, id, name, squashed, keywords, categories, developer, summary, kind, reviewed) VALUES($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)", 10);
        var number = _database.Number("SELECT COALESCE(MAX(number), 0) FROM apps");
        var line = 0;
        foreach (var bytes in Lines(content))
        {
            line++;
            try
            {
                var card = CardJson.Read(bytes.Span);
                var entry = SearchEntry.Of(card);
                number++;
                addApp.Run(number, name.Text, shard.Key.Hex, card.Id.Text, SearchText.Squash(card.Id.Text), SearchText.Squash(card.Name), bytes.ToArray());
                addText.Run(number, entry.Id, entry.Name, entry.Squashed, entry.Keywords, entry.Categories, entry.Developer, entry.Summary, (int)entry.Kind, entry.Reviewed ? 1 : 0);
            }
            catch (FormatException fault)
            {
                throw Faulty(name, shard, line, fault.Message, fault);
            }
            catch (SqliteException twice) when (twice.SqliteErrorCode == 19)
            {
                throw Faulty(name, shard, line, "an app that another line of the catalogue has too", twice);
            }
        }

        if (line != shard.Apps) throw Faulty(name, shard, line, $"{shard.Apps} cards were announced, {line} are there", null);
        _database.Run("INSERT INTO shards VALUES($1, $2)", name.Text, shard.Key.Hex);
    }

    private static ProblemException Faulty(CatalogueName name, ShardContent shard, int line, string why, Exception? cause) => new Problem(
        ProblemCode.NotVerified,
        $"the catalogue {name} has a faulty card",
        $"shard {shard.Key.Hex[..12]}…, line {line}: {why}",
        "tell its keeper; the catalogue as it was before is still in use").ToException(cause);

    private static IEnumerable<ReadOnlyMemory<byte>> Lines(byte[] content)
    {
        for (var start = 0; start < content.Length;)
        {
            var end = Array.IndexOf(content, (byte)'\n', start);
            if (end < 0) end = content.Length;
            yield return content.AsMemory(start, end - start);
            start = end + 1;
        }
    }
}
