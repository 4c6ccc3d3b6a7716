using System.Globalization;
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
    public const int SchemaVersion = 3;

    private const int Candidates = 400;
    private const int MostGuesses = 8;

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
        CREATE VIRTUAL TABLE texts USING fts5(id, name, squashed, keywords, categories, developer, summary, description,
            kind UNINDEXED, reviewed UNINDEXED, licence UNINDEXED, newest UNINDEXED, tokenize='unicode61 remove_diacritics 0');
        CREATE VIRTUAL TABLE words USING fts5vocab(texts, 'row');
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

    /// <summary>
    /// Apps that match, each once. First as typed; where nothing matches, with every word as the beginning of one; and where
    /// still nothing does, with words that differ in a letter or two.
    /// </summary>
    public IReadOnlyList<SearchResult> Search(SearchRequest request)
    {
        if (request.Query.Words.Count == 0) return request.Filter.IsEmpty ? [] : Find(request, request.Query);
        var results = Find(request, request.Query);
        if (results.Count == 0 && request.Query.Words.Count > 1) results = Find(request, request.Query.Loosened());
        if (results.Count > 0) return results;
        return [.. request.Query.Guesses(Meant, MostGuesses)
            .SelectMany(guess => Find(request, guess))
            .OrderByDescending(result => result.Match.Weight)
            .DistinctBy(result => result.Offer.Card.Id)];
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

    private List<SearchResult> Find(SearchRequest request, SearchQuery query)
    {
        var search = new SearchStatement(request, query, Candidates);
        return [.. _database.Query(search.Sql, ReadSearchRow, [.. search.Values])
            .Select(row => (Row: row, Match: query.Words.Count == 0 ? SearchRanking.Listed(row.Entry) : SearchRanking.Judge(query, row.Entry)))
            .Where(found => found.Match is not null)
            .OrderByDescending(found => request.Order == SearchOrder.Match && query.Words.Count > 0 ? found.Match!.Weight : 0)
            .ThenByDescending(found => request.Order == SearchOrder.Newest ? found.Row.Newest : "", StringComparer.Ordinal)
            .ThenBy(found => request.Order == SearchOrder.Match && query.Words.Count > 0 ? "" : found.Row.Entry.Name, StringComparer.Ordinal)
            .ThenBy(found => found.Row.Entry.Id, StringComparer.Ordinal)
            .ThenBy(found => Position(request.Catalogues, found.Row.Catalogue))
            .DistinctBy(found => found.Row.Entry.Id)
            .Select(found => new SearchResult(new Offer(found.Row.Catalogue, new Uri(found.Row.Base), ReadCard(found.Row.Card)), found.Match!))];
    }

    /// <summary>What a word of a query may stand for: itself where a word begins with it, otherwise what is spelled alike.</summary>
    private IReadOnlyList<(string Word, int Distance)> Meant(string word)
    {
        var known = _database.Number("SELECT 1 FROM texts WHERE texts MATCH $1 LIMIT 1", $"\"{word}\"*") == 1;
        return known ? [(word, 0)] : SpellingGuess.Of(word, _database.Query("SELECT term, doc FROM words", row => (row.GetString(0), row.GetInt64(1))));
    }

    private static (CatalogueName Catalogue, string Base, byte[] Card, string Newest, SearchEntry Entry) ReadSearchRow(SqliteDataReader row) => (
        CatalogueName.Parse(row.GetString(0)),
        row.GetString(1),
        row.GetFieldValue<byte[]>(2),
        row.GetString(3),
        new SearchEntry
        {
            Kind = (AppKind)row.GetInt32(4), Reviewed = row.GetInt32(5) != 0, Id = row.GetString(6), Name = row.GetString(7), Keywords = row.GetString(8),
            Categories = row.GetString(9), Developer = row.GetString(10), Summary = row.GetString(11), Description = row.GetString(12),
        });

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
        using var addText = _database.Prepare("INSERT INTO texts(rowid, id, name, squashed, keywords, categories, developer, summary, description, kind, reviewed, licence, newest) VALUES($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13)", 13);
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
                addText.Run(number, entry.Id, entry.Name, entry.Squashed, entry.Keywords, entry.Categories, entry.Developer, entry.Summary, entry.Description,
                    (int)entry.Kind, entry.Reviewed ? 1 : 0, SearchStatement.LicenceWords(card.Licence), card.Releases.Max(release => release.Date).ToString("yyyy-MM-dd"));
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
