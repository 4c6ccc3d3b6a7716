using System.Globalization;
using System.Text;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Records;

/// <summary>
/// What a root remembers: apps, unsettled intentions, catalogues and runs. One SQLite database with a write-ahead log
/// and full synchronisation, so that what has been settled survives a power loss.
/// </summary>
public sealed class RecordStore : IDisposable
{
    /// <summary>The version of the tables.</summary>
    public const int SchemaVersion = 3;

    private const string Schema = """
        CREATE TABLE apps(id TEXT PRIMARY KEY, record TEXT NOT NULL) STRICT;
        CREATE TABLE intentions(id TEXT PRIMARY KEY, after TEXT, begun TEXT NOT NULL) STRICT;
        CREATE TABLE catalogues(name TEXT PRIMARY KEY, location TEXT NOT NULL, position INTEGER NOT NULL, paused INTEGER NOT NULL DEFAULT 0) STRICT;
        CREATE TABLE runs(number INTEGER PRIMARY KEY, command TEXT NOT NULL, begun TEXT NOT NULL, ended TEXT, interrupted INTEGER NOT NULL DEFAULT 0) STRICT;
        CREATE TABLE run_items(run INTEGER NOT NULL REFERENCES runs(number), app TEXT NOT NULL, action TEXT NOT NULL,
            from_version TEXT, to_version TEXT, outcome TEXT NOT NULL, reason TEXT, reference TEXT, stated_sha256 TEXT, to_installer BLOB, PRIMARY KEY(run, app)) STRICT;
        """;

    /// <summary>What brings the tables of an older version to the next, by the older one.</summary>
    private static readonly Dictionary<long, string> Changes = new()
    {
        [0] = Schema,
        [1] = "ALTER TABLE run_items ADD COLUMN reference TEXT; ALTER TABLE run_items ADD COLUMN stated_sha256 TEXT; ALTER TABLE run_items ADD COLUMN to_installer BLOB",
        [2] = "ALTER TABLE run_items ADD COLUMN stated_sha256 TEXT; ALTER TABLE run_items ADD COLUMN to_installer BLOB",
    };

    /// <summary>Between arguments in one column: no argument of a program can hold it.</summary>
    private const char BetweenArguments = '\0';

    /// <summary>The word for an item that has not ended yet.</summary>
    private const string NotEnded = "Open";

    private readonly Database _database;
    private readonly TimeProvider _clock;

    private IReadOnlyList<RegisteredCatalogue>? _catalogues;

    private RecordStore(Database database, TimeProvider clock) => (_database, _clock) = (database, clock);

    /// <summary>Opens the records of a root.</summary>
    /// <param name="layout">The root.</param>
    /// <param name="clock">Tells the time of what is recorded.</param>
    /// <param name="create">Whether to create them where missing; otherwise a missing database reads as empty, and nothing is written.</param>
    /// <exception cref="ProblemException">They cannot be opened, are damaged, or were written by a newer version.</exception>
    public static RecordStore Open(MachineLayout layout, TimeProvider clock, bool create)
    {
        Database? database = null;
        try
        {
            database = create ? Database.Open(layout.RecordsFile) : File.Exists(layout.RecordsFile) ? Database.OpenToRead(layout.RecordsFile) : Database.Open(null);
            if (create) database.Run("PRAGMA synchronous=FULL");
            Prepare(database, layout.RecordsFile, create);
            return new RecordStore(database, clock);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            database?.Dispose();
            throw IoProblems.Of(fault, $"the records {layout.RecordsFile} cannot be opened").ToException(fault);
        }
    }

    /// <summary>Every app on record.</summary>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public IReadOnlyList<InstalledApp> Apps() => _database.Query("SELECT record FROM apps ORDER BY id", row => ReadApp(row.Text(0)));

    /// <summary>The id of every app on record.</summary>
    public IReadOnlySet<string> Ids() => _database.Query("SELECT id FROM apps", row => row.Text(0)).ToHashSet(StringComparer.Ordinal);

    /// <summary>One app's record; null where it is not installed.</summary>
    public InstalledApp? Find(AppId id) => _database.Query("SELECT record FROM apps WHERE id = $1", row => ReadApp(row.Text(0)), id.Text).FirstOrDefault();

    /// <summary>Writes an app's record outside of any switch, where only what is remembered changes.</summary>
    public void Remember(InstalledApp app)
    {
        WriteApp(app.Id, app);
        Steps.Pass();
    }

    /// <summary>Puts an intention on record: from now on the app may be anything between its record and this.</summary>
    public void Intend(AppId id, InstalledApp? after)
    {
        Steps.Pass();
        _database.Run("INSERT OR REPLACE INTO intentions(id, after, begun) VALUES($1, $2, $3)", id.Text, after is null ? null : InstalledAppJson.Write(after), Now());
        Steps.Pass();
    }

    /// <summary>Settles an intention: from now on the app is this, and nothing else.</summary>
    public void Settle(AppId id, InstalledApp? app)
    {
        using var transaction = _database.Begin();
        WriteApp(id, app);
        _database.Run("DELETE FROM intentions WHERE id = $1", id.Text);
        Steps.Pass();
        transaction.Commit();
        Steps.Pass();
    }

    /// <summary>Intentions that were never settled.</summary>
    public IReadOnlyList<(AppId Id, InstalledApp? After)> Intentions() => _database.Query(
        "SELECT id, after FROM intentions ORDER BY begun, id", row => (AppId.Parse(row.Text(0)), row.IsNull(1) ? null : (InstalledApp?)ReadApp(row.Text(1))));

    /// <summary>The catalogues, in order of preference.</summary>
    public IReadOnlyList<RegisteredCatalogue> Catalogues() => _catalogues ??= _database.Query(
        "SELECT name, location, paused FROM catalogues ORDER BY position, name", row => new RegisteredCatalogue(CatalogueName.Parse(row.Text(0)), row.Text(1), row.Truth(2)));

    /// <summary>Adds a catalogue behind the others.</summary>
    public void AddCatalogue(RegisteredCatalogue catalogue) => ChangeCatalogues(
        "INSERT INTO catalogues(name, location, position) VALUES($1, $2, (SELECT COALESCE(MAX(position), 0) + 1 FROM catalogues))", catalogue.Name.Text, catalogue.Location);

    /// <summary>Pauses a catalogue, or takes it up again; false where there is none of this name.</summary>
    public bool Pause(CatalogueName name, bool paused) => ChangeCatalogues("UPDATE catalogues SET paused = $2 WHERE name = $1", name.Text, paused ? 1 : 0) > 0;

    /// <summary>Puts catalogues into an order of preference; those that are not named follow in the order that they had.</summary>
    public void Rank(IReadOnlyList<CatalogueName> first)
    {
        var order = first.Concat(Catalogues().Select(catalogue => catalogue.Name).Where(name => !first.Contains(name))).ToList();
        using var transaction = _database.Begin();
        for (var at = 0; at < order.Count; at++) ChangeCatalogues("UPDATE catalogues SET position = $2 WHERE name = $1", order[at].Text, at + 1);
        transaction.Commit();
    }

    /// <summary>Forgets a catalogue; false where there is none of this name.</summary>
    public bool DropCatalogue(CatalogueName name) => ChangeCatalogues("DELETE FROM catalogues WHERE name = $1", name.Text) > 0;

    /// <summary>Opens the record of a run, with all that it is about to do, and tells its number.</summary>
    public long BeginRun(string command, Plan plan)
    {
        using var transaction = _database.Begin();
        var number = _database.Number("INSERT INTO runs(command, begun) VALUES($1, $2) RETURNING number", command, Now());
        foreach (var item in plan.Items) WriteItem(number, item, NotEnded, null);
        transaction.Commit();
        Steps.Pass();
        return number;
    }

    /// <summary>The run of a number, or the latest of which something is left to do; null where there is none.</summary>
    /// <param name="number">The number of the run; null for the latest.</param>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public (long Number, string Command, IReadOnlyList<RecordedItem> Items)? RunLeft(long? number)
    {
        var runs = _database.Query("SELECT number, command FROM runs WHERE $1 IS NULL OR number = $1 ORDER BY number DESC", row => (Number: row.Number(0), Command: row.Text(1)), number);
        foreach (var run in runs)
        {
            var items = _database.Query($"SELECT app, action, to_version, outcome, {Since(2, "reference")}, {Since(3, "stated_sha256")}, {Since(3, "to_installer")} FROM run_items WHERE run = $1 ORDER BY rowid", ReadItem, run.Number);
            if (number is not null || items.Exists(item => item.IsLeft)) return (run.Number, run.Command, items);
        }

        return null;
    }

    /// <summary>A column that older tables lack, which are only brought up to date when something is changed.</summary>
    private string Since(int version, string column) => _database.Number("PRAGMA user_version") >= version ? column : "NULL";

    /// <summary>Closes the record of a run.</summary>
    public void EndRun(long number, RunReport report)
    {
        using var transaction = _database.Begin();
        foreach (var item in report.Items) WriteItem(number, item.Item, item.Outcome.ToString(), item.Problem?.What);

        _database.Run("UPDATE runs SET ended = $2, interrupted = $3 WHERE number = $1", number, Now(), report.Interrupted ? 1 : 0);
        transaction.Commit();
    }

    /// <inheritdoc/>
    public void Dispose() => _database.Dispose();

    private int ChangeCatalogues(string sql, params ReadOnlySpan<object?> values)
    {
        _catalogues = null;
        return _database.Run(sql, values);
    }

    private static void Prepare(Database database, string file, bool create)
    {
        var version = database.Number("PRAGMA user_version");
        if (version == SchemaVersion || (version > 0 && version < SchemaVersion && !create)) return;
        if (version > SchemaVersion)
        {
            throw new Problem(
                ProblemCode.StateNeedsAttention, $"the records {file} cannot be read", $"a newer acrate wrote them (version {version}, this one knows {SchemaVersion})", "use the newer acrate").ToException();
        }

        database.Run("PRAGMA journal_mode=WAL");
        using var transaction = database.Begin();
        version = database.Number("PRAGMA user_version");
        if (version != SchemaVersion)
        {
            database.Run(Changes[version]);
            database.Run($"PRAGMA user_version={SchemaVersion}");
        }

        transaction.Commit();
    }

    private static InstalledApp ReadApp(string record)
    {
        try
        {
            return InstalledAppJson.Read(record);
        }
        catch (FormatException fault)
        {
            throw new Problem(ProblemCode.StateNeedsAttention, "the record of an app cannot be read", fault.Message).ToException(fault);
        }
    }

    private void WriteApp(AppId id, InstalledApp? app)
    {
        if (app is null) _database.Run("DELETE FROM apps WHERE id = $1", id.Text);
        else _database.Run("INSERT OR REPLACE INTO apps(id, record) VALUES($1, $2)", id.Text, InstalledAppJson.Write(app));
    }

    private void WriteItem(long run, PlanItem item, string outcome, string? reason)
    {
        var catalogue = item.Offer?.Catalogue ?? item.Installed?.Catalogue;
        _database.Run(
            "INSERT OR REPLACE INTO run_items(run, app, action, from_version, to_version, outcome, reason, reference, stated_sha256, to_installer) VALUES($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)",
            run, item.Id, item.Action.ToString(), item.From?.Text, item.To?.Text, outcome, reason, new AppReference(catalogue, item.Id, item.Asked).ToString(),
            item.StatedSha256?.Hex, item.ToInstaller.Count > 0 ? Encoding.UTF8.GetBytes(string.Join(BetweenArguments, item.ToInstaller)) : null);
    }

    private static RecordedItem ReadItem(Row row)
    {
        try
        {
            return new RecordedItem(
                AppReference.Parse(Text(4) ?? row.Text(0)), Enum.Parse<PlanAction>(row.Text(1)), Text(2) is { } to ? AppVersion.Parse(to) : null, row.Text(3) == NotEnded ? null : Enum.Parse<Outcome>(row.Text(3)))
            {
                StatedSha256 = Text(5) is { } digest ? Sha256Digest.Parse(digest) : null, ToInstaller = row.IsNull(6) ? [] : Encoding.UTF8.GetString(row.Bytes(6)).Split(BetweenArguments),
            };
        }
        catch (Exception fault) when (fault is FormatException or ArgumentException)
        {
            throw new Problem(ProblemCode.StateNeedsAttention, "the record of a run cannot be read", fault.Message).ToException(fault);
        }

        string? Text(int column) => row.IsNull(column) ? null : row.Text(column);
    }

    private string Now() => _clock.GetUtcNow().ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture);
}
