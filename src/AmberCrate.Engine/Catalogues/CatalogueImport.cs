using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Indexing;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Catalogues;

/// <summary>Takes a catalogue as it is now over into the cache, within a transaction that the caller has begun.</summary>
/// <param name="database">The cache.</param>
/// <param name="name">The catalogue's name.</param>
/// <param name="number">Its number in the cache.</param>
/// <param name="isFolder">Whether it is a folder of this machine.</param>
internal sealed class CatalogueImport(Database database, CatalogueName name, long number, bool isFolder)
{
    private static readonly int PartsAhead = Environment.ProcessorCount + 1;

    // Apps that more than one line may tell about: what is in force of them is settled when all lines are there.
    private readonly HashSet<string> _touched = new(StringComparer.Ordinal);
    private readonly HashSet<string> _words = new(StringComparer.Ordinal);
    private readonly HashSet<(string Language, string Word)> _localWords = [];
    private readonly List<long> _added = [];

    /// <summary>Removes parts that are gone and adds new ones.</summary>
    /// <param name="parts">The parts as they are now.</param>
    /// <param name="read">Reads the bytes of a new part, which have been fetched before. Called from several threads.</param>
    /// <param name="cancel">Stops; the transaction must then be rolled back.</param>
    /// <returns>How many parts were added.</returns>
    /// <exception cref="ProblemException">A part cannot be unpacked or has a faulty line.</exception>
    public int Run(IReadOnlyList<PartContent> parts, Func<PartContent, byte[]> read, CancellationToken cancel)
    {
        var known = database
            .Query(
                "SELECT key, number, layer, first, last FROM parts WHERE catalogue = $1",
                row => (Key: row.Text(0), Part: new KnownPart(row.Number(1), row.Small(2), row.Number(3), row.Number(4))),
                number)
            .ToDictionary(pair => pair.Key, pair => pair.Part, StringComparer.Ordinal);
        var wanted = parts.ToDictionary(part => part.Key.Hex, StringComparer.Ordinal);
        foreach (var (key, part) in known)
        {
            if (!wanted.TryGetValue(key, out var now)) RemovePart(part);
            else if (now.Layer != part.Layer) MovePart(part, now.Layer);
        }

        var before = database.Number("SELECT COALESCE(MAX(number), 0) FROM cards");
        var added = parts.Where(part => !known.ContainsKey(part.Key.Hex)).ToList();
        var fromNothing = added.Count == parts.Count;
        AddParts(added, read, before, fromNothing, cancel);
        cancel.ThrowIfCancellationRequested();
        Commit();
        new IndexVocabulary(database).Add(_words, _localWords);
        foreach (var (index, columns) in CatalogueTables.Indexes)
        {
            var from = $"INSERT INTO {index}(rowid, {columns}) SELECT place, {columns} FROM apps";
            if (fromNothing) database.Run($"{from} INDEXED BY apps_by_place WHERE number > $1 ORDER BY place", before);
            else database.Run($"{from} WHERE number IN (SELECT value FROM json_each($1)) ORDER BY place", Json(_added));
        }

        return added.Count;
    }

    /// <summary>Makes the bundles those that the catalogue carries now.</summary>
    /// <param name="bundles">The bundles.</param>
    /// <param name="texts">The text of each that is new, by its digest.</param>
    public void TakeBundles(IReadOnlyList<BundleContent> bundles, IReadOnlyDictionary<string, byte[]> texts)
    {
        var kept = database.Query(
            "SELECT sha256, content FROM bundles WHERE catalogue = $1", row => (row.Text(0), row.Bytes(1)), number)
            .DistinctBy(pair => pair.Item1).ToDictionary(pair => pair.Item1, pair => pair.Item2, StringComparer.Ordinal);
        database.Run("DELETE FROM bundles WHERE catalogue = $1", number);
        foreach (var (name, sha256, _) in bundles.Select(bundle => bundle.Listing))
            database.Run(
                "INSERT INTO bundles(catalogue, name, sha256, content) VALUES($1, $2, $3, $4)", number, name, sha256.Hex,
                texts.GetValueOrDefault(sha256.Hex) ?? kept[sha256.Hex]);
    }

    /// <summary>Makes the popularity of apps that which the catalogue has counted.</summary>
    public void TakePopularity(Popularity? popularity)
    {
        database.Run("DELETE FROM popularity WHERE catalogue = $1", number);
        database.Run("UPDATE catalogues SET machines = $2 WHERE number = $1", number, (long)(popularity?.Machines ?? 0));
        using var insert = database.Prepare("INSERT INTO popularity(catalogue, app, machines) VALUES($1, $2, $3)");
        foreach (var (app, machines) in popularity?.Apps ?? new Dictionary<string, int>())
            insert.Run(number, app, (long)machines);
    }

    /// <summary>Removes everything of the catalogue.</summary>
    public void Clear()
    {
        database.Run("DELETE FROM popularity WHERE catalogue = $1", number);
        if (database.Number("SELECT COUNT(*) FROM catalogues") <= 1)
        {
            // The only catalogue: its indexes are emptied at once, not app by app.
            foreach (var (index, _) in CatalogueTables.Indexes)
                database.Run($"INSERT INTO {index}({index}) VALUES('delete-all')");
            foreach (var table in new[] { "apps", "cards", "parts", "signs", "bundles", "translations" })
                database.Run($"DELETE FROM {table}");
            new IndexVocabulary(database).Clear();
            return;
        }

        RemoveApps("catalogue = $1", number);
        database.Run("DELETE FROM bundles WHERE catalogue = $1", number);
        database.Run("DELETE FROM cards WHERE part IN (SELECT number FROM parts WHERE catalogue = $1)", number);
        database.Run("DELETE FROM parts WHERE catalogue = $1", number);
    }

    private void RemovePart(KnownPart part)
    {
        Touch(part);
        RemoveApps("number BETWEEN $1 AND $2", part.First, part.Last);
        database.Run("DELETE FROM cards WHERE number BETWEEN $1 AND $2", part.First, part.Last);
        database.Run("DELETE FROM parts WHERE number = $1", part.Number);
    }

    private void MovePart(KnownPart part, int layer)
    {
        Touch(part);
        database.Run("UPDATE parts SET layer = $2 WHERE number = $1", part.Number, layer);
    }

    private void Touch(KnownPart part) =>
        _touched.UnionWith(
            database.Query("SELECT id FROM cards WHERE number BETWEEN $1 AND $2", row => row.Text(0), part.First, part.Last));

    /// <summary>
    /// Removes apps from the indexes and from the list, in the order of the indexes: they are changed in one sweep then.
    /// </summary>
    private void RemoveApps(string condition, params ReadOnlySpan<object?> values)
    {
        foreach (var (index, columns) in CatalogueTables.Indexes)
        {
            database.Run(
                $"INSERT INTO {index}({index}, rowid, {columns}) SELECT 'delete', place, {columns} FROM apps WHERE {condition} "
                    + "ORDER BY place",
                values);
        }

        DeleteApps(condition, values);
    }

    private void DeleteApps(string condition, params ReadOnlySpan<object?> values)
    {
        database.Run($"DELETE FROM signs WHERE number IN (SELECT number FROM apps WHERE {condition})", values);
        database.Run($"DELETE FROM translations WHERE number IN (SELECT number FROM apps WHERE {condition})", values);
        database.Run($"DELETE FROM apps WHERE {condition}", values);
    }

    /// <summary>Adds parts in their order, while the next ones are unpacked and read by other threads.</summary>
    private void AddParts(
        List<PartContent> added, Func<PartContent, byte[]> read, long before, bool fromNothing, CancellationToken cancel)
    {
        using var writer = new AppWriter(database, number);
        var ids = new HashSet<string>(StringComparer.Ordinal);
        var ahead = new Queue<(PartContent Part, Task<PartRows> Rows)>();
        var next = before;
        for (var at = 0; at < added.Count || ahead.Count > 0;)
        {
            cancel.ThrowIfCancellationRequested();
            for (; at < added.Count && ahead.Count < PartsAhead; at++)
            {
                var coming = added[at];
                ahead.Enqueue((coming, Task.Run(() => ReadPart(coming, read), cancel)));
            }

            var (part, task) = ahead.Dequeue();
            var (rows, fault) = task.GetAwaiter().GetResult();
            database.Run(
                "INSERT INTO parts(catalogue, key, layer, first, last, maintainer, mark, fault) "
                    + "VALUES($1, $2, $3, $4, $5, $6, $7, $8)",
                number, part.Key.Hex, part.Layer, next + 1, next + rows.Count, part.Maintainer?.Name, part.Maintainer?.Mark,
                fault);
            var partNumber = database.Number("SELECT last_insert_rowid()");
            for (var line = 0; line < rows.Count; line++)
            {
                var row = rows[line];
                writer.AddCard(++next, partNumber, row);
                if (part.Layer > 0 || !fromNothing || part.Maintainer is not null) _touched.Add(row.Id.Text);
                else if (!ids.Add(row.Id.Text)) throw Faulty(part, line + 1, $"\"{row.Id}\", which another line has too", null);
                else if (row.Entry is null)
                    throw Faulty(part, line + 1, $"\"{row.Id}\" is gone from a layer that has nothing below", null);
                else Add(writer, next, row);
            }
        }
    }

    private void Add(AppWriter writer, long card, AppRow row)
    {
        writer.AddApp(card, row);
        _added.Add(card);
        foreach (var text in row.Entry!.Texts) _words.UnionWith(text.Split(' ', StringSplitOptions.RemoveEmptyEntries));
        foreach (var text in row.Entry.Local.Where(text => WordStem.HasRules(text.Language)))
        {
            var language = text.Language.Split('_', '@')[0];
            foreach (var word in $"{text.Name} {text.Keywords} {text.Summary} {text.Description}"
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)) _localWords.Add((language, word));
        }
    }

    private PartRows ReadPart(PartContent part, Func<PartContent, byte[]> read)
    {
        var (rows, faulty, line) = (new List<AppRow>(), (string?)null, 0);
        foreach (var bytes in PartText.Lines(Unpacked(part, read, ref faulty)))
        {
            line++;
            try
            {
                rows.Add(AppRow.Read(bytes.Span, isFolder));
            }
            catch (MalformedException fault) when (part.Maintainer is null)
            {
                throw Faulty(part, line, fault.Message, fault);
            }
            catch (MalformedException fault)
            {
                faulty ??= $"a faulty card is left out: {fault.Message}";
            }
        }

        if (part.Maintainer is not null && rows.GroupBy(row => row.Id).FirstOrDefault(group => group.Count() > 1) is { } twice)
        {
            faulty ??= $"{twice.Key} is there twice, and is left out";
            rows = [.. rows.GroupBy(row => row.Id).Where(group => group.Count() == 1).Select(group => group.First())];
        }

        return part.Lines is null || rows.Count == part.Lines
            ? new PartRows(rows, faulty)
            : throw Faulty(part, rows.Count, $"{part.Lines} lines were announced, {rows.Count} are there", null);
    }

    private static byte[] Unpacked(PartContent part, Func<PartContent, byte[]> read, ref string? faulty)
    {
        try
        {
            return part.Unpack(read(part));
        }
        catch (ProblemException fault) when (part.Maintainer is not null)
        {
            faulty = DelegatedParts.WordsOf(fault);
            return [];
        }
    }

    /// <summary>Puts those lines in force that are in the highest layer.</summary>
    private void Commit()
    {
        using var writer = new AppWriter(database, number);
        var overridden = new List<long>();
        var winners = new List<long>();
        foreach (var id in _touched)
        {
            var lines = database.Query(
                "SELECT cards.number, layer, line IS NULL, apps.number IS NOT NULL, maintainer IS NOT NULL FROM cards "
                    + "JOIN parts ON parts.number = "
                    + "cards.part LEFT JOIN apps ON apps.number = cards.number WHERE cards.id = $1 AND parts.catalogue = $2 "
                    + "ORDER BY layer DESC",
                row => (Card: row.Number(0), Layer: row.Small(1), IsGone: row.Truth(2), IsInForce: row.Truth(3),
                    IsOthers: row.Truth(4)),
                id, number);
            if (lines.Count > 1 && lines[0].Layer == lines[1].Layer && !lines[0].IsOthers)
                throw Faulty($"\"{id}\" is in one layer twice", null);

            // Each maintainer's part of the catalogue has layers of its own: what is gone from one may be in the next.
            var winner = lines.GroupBy(line => line.Layer / PartContent.LayersOfOne).Select(own => own.First())
                .Where(line => !line.IsGone).Select(line => line.Card).FirstOrDefault(-1);
            overridden.AddRange(lines.Where(line => line.IsInForce && line.Card != winner).Select(line => line.Card));
            if (lines.Exists(line => line.Card == winner && !line.IsInForce)) winners.Add(winner);
        }

        // What this very run has put in force is not in the index yet.
        var indexed = overridden.Except(_added).ToList();
        if (indexed.Count > 0) RemoveApps("number IN (SELECT value FROM json_each($1))", Json(indexed));
        if (indexed.Count < overridden.Count)
            DeleteApps("number IN (SELECT value FROM json_each($1))", Json(overridden));
        foreach (var card in winners)
        {
            var line = database.Query("SELECT line FROM cards WHERE number = $1", row => row.Bytes(0), card)[0];
            Add(writer, card, AppRow.Read(CardCompression.Unpack(line)));
        }
    }

    private ProblemException Faulty(PartContent part, int line, string why, Exception? cause) =>
        Faulty($"part {part.Key.Hex[..12]}…, line {line}: {why}", cause);

    private ProblemException Faulty(string why, Exception? cause) => new Problem(
        ProblemCode.NotVerified, $"the catalogue {name} has a faulty card", why,
        "tell its maintainer; the previous data are still in use").ToException(cause);

    private static string Json(IEnumerable<long> numbers) => $"[{string.Join(',', numbers)}]";

    private sealed record PartRows(List<AppRow> Rows, string? Fault);

    private sealed record KnownPart(long Number, int Layer, long First, long Last);
}
