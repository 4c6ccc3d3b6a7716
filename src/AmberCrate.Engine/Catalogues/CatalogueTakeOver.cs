using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Catalogues;

/// <summary>Takes a catalogue as it is now over into the cache, within a transaction that the caller has begun.</summary>
/// <param name="database">The cache.</param>
/// <param name="name">The catalogue's name.</param>
/// <param name="number">Its number in the cache.</param>
internal sealed class CatalogueTakeOver(Database database, CatalogueName name, long number)
{
    private static readonly int ShardsAhead = Environment.ProcessorCount + 1;

    // Apps that more than one line may tell about: what is in force of them is settled when all lines are there.
    private readonly HashSet<string> _touched = new(StringComparer.Ordinal);
    private readonly HashSet<string> _words = new(StringComparer.Ordinal);
    private readonly List<long> _added = [];

    /// <summary>Removes shards that are gone and adds new ones.</summary>
    /// <param name="shards">The shards as they are now.</param>
    /// <param name="read">Reads the bytes of a new shard, which have been fetched before. Called from several threads.</param>
    /// <param name="cancel">Stops; the transaction must then be rolled back.</param>
    /// <returns>How many shards were added.</returns>
    /// <exception cref="ProblemException">A shard cannot be unpacked or has a faulty line.</exception>
    public int Run(IReadOnlyList<ShardContent> shards, Func<ShardContent, byte[]> read, CancellationToken cancel)
    {
        var known = database
            .Query(
                "SELECT key, number, layer, first, last FROM shards WHERE catalogue = $1",
                row => (Key: row.Text(0), Shard: new KnownShard(row.Number(1), row.Small(2), row.Number(3), row.Number(4))),
                number)
            .ToDictionary(pair => pair.Key, pair => pair.Shard, StringComparer.Ordinal);
        var wanted = shards.ToDictionary(shard => shard.Key.Hex, StringComparer.Ordinal);
        foreach (var (key, shard) in known)
        {
            if (!wanted.TryGetValue(key, out var now)) RemoveShard(shard);
            else if (now.Layer != shard.Layer) MoveShard(shard, now.Layer);
        }

        var before = database.Number("SELECT COALESCE(MAX(number), 0) FROM cards");
        var added = shards.Where(shard => !known.ContainsKey(shard.Key.Hex)).ToList();
        var fromNothing = added.Count == shards.Count;
        AddShards(added, read, before, fromNothing, cancel);
        cancel.ThrowIfCancellationRequested();
        Settle();
        new KnownWords(database).Add(_words);
        if (fromNothing) database.Run(
            $"INSERT INTO texts(rowid, {CatalogueTables.Indexed}) SELECT place, {CatalogueTables.Indexed} FROM apps INDEXED BY "
                + $"apps_by_place WHERE number > $1 ORDER BY place",
            before);
        else database.Run(
            $"INSERT INTO texts(rowid, {CatalogueTables.Indexed}) SELECT place, {CatalogueTables.Indexed} FROM apps WHERE "
                + $"number IN (SELECT value FROM json_each($1)) ORDER BY place",
            Json(_added));
        return added.Count;
    }

    /// <summary>Removes everything of the catalogue.</summary>
    public void Clear()
    {
        if (database.Number("SELECT COUNT(*) FROM catalogues") <= 1)
        {
            // The only catalogue: its index is emptied at once, not app by app.
            database.Run("INSERT INTO texts(texts) VALUES('delete-all')");
            foreach (var table in new[] { "apps", "cards", "shards" }) database.Run($"DELETE FROM {table}");
            new KnownWords(database).Clear();
            return;
        }

        RemoveApps("catalogue = $1", number);
        database.Run("DELETE FROM cards WHERE shard IN (SELECT number FROM shards WHERE catalogue = $1)", number);
        database.Run("DELETE FROM shards WHERE catalogue = $1", number);
    }

    private void RemoveShard(KnownShard shard)
    {
        Touch(shard);
        RemoveApps("number BETWEEN $1 AND $2", shard.First, shard.Last);
        database.Run("DELETE FROM cards WHERE number BETWEEN $1 AND $2", shard.First, shard.Last);
        database.Run("DELETE FROM shards WHERE number = $1", shard.Number);
    }

    private void MoveShard(KnownShard shard, int layer)
    {
        Touch(shard);
        database.Run("UPDATE shards SET layer = $2 WHERE number = $1", shard.Number, layer);
    }

    private void Touch(KnownShard shard) =>
        _touched.UnionWith(
            database.Query("SELECT id FROM cards WHERE number BETWEEN $1 AND $2", row => row.Text(0), shard.First, shard.Last));

    /// <summary>
    /// Removes apps from the index and from the list, in the order of the index: it is changed in one sweep then.
    /// </summary>
    private void RemoveApps(string condition, params ReadOnlySpan<object?> values)
    {
        database.Run(
            $"INSERT INTO texts(texts, rowid, {CatalogueTables.Indexed}) SELECT 'delete', place, {CatalogueTables.Indexed} "
                + $"FROM apps WHERE {condition} ORDER BY place",
            values);
        database.Run($"DELETE FROM apps WHERE {condition}", values);
    }

    /// <summary>Adds shards in their order, while the next ones are unpacked and read by other threads.</summary>
    private void AddShards(
        List<ShardContent> added, Func<ShardContent, byte[]> read, long before, bool fromNothing, CancellationToken cancel)
    {
        using var writer = new AppWriter(database, number);
        var ids = new HashSet<string>(StringComparer.Ordinal);
        var ahead = new Queue<(ShardContent Shard, Task<List<AppRow>> Rows)>();
        var next = before;
        for (var at = 0; at < added.Count || ahead.Count > 0;)
        {
            cancel.ThrowIfCancellationRequested();
            for (; at < added.Count && ahead.Count < ShardsAhead; at++)
            {
                var coming = added[at];
                ahead.Enqueue((coming, Task.Run(() => ReadShard(coming, read), cancel)));
            }

            var (shard, task) = ahead.Dequeue();
            var rows = task.GetAwaiter().GetResult();
            database.Run(
                "INSERT INTO shards(catalogue, key, layer, first, last) VALUES($1, $2, $3, $4, $5)", number, shard.Key.Hex,
                shard.Layer, next + 1, next + rows.Count);
            var shardNumber = database.Number("SELECT last_insert_rowid()");
            for (var line = 0; line < rows.Count; line++)
            {
                var row = rows[line];
                writer.AddCard(++next, shardNumber, row);
                if (shard.Layer > 0 || !fromNothing) _touched.Add(row.Id.Text);
                else if (!ids.Add(row.Id.Text)) throw Faulty(shard, line + 1, $"\"{row.Id}\", which another line has too", null);
                else if (row.Entry is null)
                    throw Faulty(shard, line + 1, $"\"{row.Id}\" is gone from a layer that has nothing below", null);
                else Add(writer, next, row);
            }
        }
    }

    private void Add(AppWriter writer, long card, AppRow row)
    {
        writer.AddApp(card, row);
        _added.Add(card);
        foreach (var text in row.Entry!.Texts) _words.UnionWith(text.Split(' ', StringSplitOptions.RemoveEmptyEntries));
    }

    private List<AppRow> ReadShard(ShardContent shard, Func<ShardContent, byte[]> read)
    {
        var rows = new List<AppRow>();
        foreach (var bytes in ShardText.Lines(shard.Unpack(read(shard))))
        {
            try
            {
                rows.Add(AppRow.Read(bytes.Span));
            }
            catch (MalformedException fault)
            {
                throw Faulty(shard, rows.Count + 1, fault.Message, fault);
            }
        }

        return rows.Count == shard.Lines
            ? rows
            : throw Faulty(shard, rows.Count, $"{shard.Lines} lines were announced, {rows.Count} are there", null);
    }

    /// <summary>Puts those lines in force that are in the highest layer.</summary>
    private void Settle()
    {
        using var writer = new AppWriter(database, number);
        var overridden = new List<long>();
        var winners = new List<long>();
        foreach (var id in _touched)
        {
            var lines = database.Query(
                "SELECT cards.number, layer, line IS NULL, apps.number IS NOT NULL FROM cards JOIN shards ON shards.number = "
                    + "cards.shard LEFT JOIN apps ON apps.number = cards.number WHERE cards.id = $1 AND shards.catalogue = $2 "
                    + "ORDER BY layer DESC",
                row => (Card: row.Number(0), Layer: row.Small(1), IsGone: row.Truth(2), IsInForce: row.Truth(3)), id, number);
            if (lines.Count > 1 && lines[0].Layer == lines[1].Layer) throw Faulty($"\"{id}\" is in one layer twice", null);
            overridden.AddRange(lines.Where((line, at) => line.IsInForce && (at > 0 || line.IsGone)).Select(line => line.Card));
            if (lines.Count > 0 && lines[0] is { IsGone: false, IsInForce: false } winner) winners.Add(winner.Card);
        }

        // What this very run has put in force is not in the index yet.
        var indexed = overridden.Except(_added).ToList();
        if (indexed.Count > 0) RemoveApps("number IN (SELECT value FROM json_each($1))", Json(indexed));
        if (indexed.Count < overridden.Count)
            database.Run("DELETE FROM apps WHERE number IN (SELECT value FROM json_each($1))", Json(overridden));
        foreach (var card in winners)
        {
            var line = database.Query("SELECT line FROM cards WHERE number = $1", row => row.Bytes(0), card)[0];
            Add(writer, card, AppRow.Read(CardPacking.Unpack(line)));
        }
    }

    private ProblemException Faulty(ShardContent shard, int line, string why, Exception? cause) =>
        Faulty($"shard {shard.Key.Hex[..12]}…, line {line}: {why}", cause);

    private ProblemException Faulty(string why, Exception? cause) => new Problem(
        ProblemCode.NotVerified, $"the catalogue {name} has a faulty card", why,
        "tell its keeper; the catalogue as it was before is still in use").ToException(cause);

    private static string Json(IEnumerable<long> numbers) => $"[{string.Join(',', numbers)}]";

    private sealed record KnownShard(long Number, int Layer, long First, long Last);
}
