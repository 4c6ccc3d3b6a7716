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
    /// <summary>Between arguments in one column: no argument of a program can hold it.</summary>
    private const char BetweenArguments = '\0';

    private readonly Database _database;
    private readonly TimeProvider _clock;

    private IReadOnlyList<RegisteredCatalogue>? _catalogues;

    private RecordStore(Database database, TimeProvider clock) => (_database, _clock) = (database, clock);

    /// <summary>Opens the records of a root.</summary>
    /// <param name="layout">The root.</param>
    /// <param name="clock">Tells the time of what is recorded.</param>
    /// <param name="create">Whether to create them where missing; otherwise a missing database reads as empty, and nothing is
    /// written.</param>
    /// <exception cref="ProblemException">They cannot be opened, are damaged, or were written by a newer version.</exception>
    public static RecordStore Open(MachineLayout layout, TimeProvider clock, bool create)
    {
        Database? database = null;
        try
        {
            database = create
                ? OpenToChange(layout.RecordsFile, layout.Scope == InstallScope.AllUsers)
                : OpenToRead(layout.RecordsFile);
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
    public IReadOnlyList<InstalledApp> Apps() =>
        _database.Query("SELECT record, id FROM apps ORDER BY id", row => ReadApp(row.Text(1), row.Text(0)));

    /// <summary>The id of every app on record.</summary>
    public IReadOnlySet<string> Ids() =>
        _database.Query("SELECT id FROM apps", row => row.Text(0)).ToHashSet(StringComparer.Ordinal);

    /// <summary>One app's record; null where it is not installed.</summary>
    public InstalledApp? Find(AppId id) =>
        _database.Query("SELECT record FROM apps WHERE id = $1", row => ReadApp(id.Text, row.Text(0)), id.Text).FirstOrDefault();

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
        _database.Run(
            "INSERT OR REPLACE INTO intentions(id, after, begun) VALUES($1, $2, $3)", id.Text,
            after is null ? null : InstalledAppJson.Write(after), Now());
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
        "SELECT id, after FROM intentions ORDER BY begun, id",
        row => (ReadId(row.Text(0)), row.IsNull(1) ? null : (InstalledApp?)ReadApp(row.Text(0), row.Text(1))));

    /// <summary>The catalogues, in order of preference.</summary>
    public IReadOnlyList<RegisteredCatalogue> Catalogues() => _catalogues ??= _database.Query(
        "SELECT name, location, paused FROM catalogues ORDER BY position, name",
        row => new RegisteredCatalogue(CatalogueName.Parse(row.Text(0)), row.Text(1), row.Truth(2)));

    /// <summary>Adds a catalogue behind the others. The apps of its name belong to it from now on.</summary>
    public void AddCatalogue(RegisteredCatalogue catalogue)
    {
        using var transaction = _database.Begin();
        Insert(catalogue);
        transaction.Commit();
    }

    private void Insert(RegisteredCatalogue catalogue)
    {
        ChangeCatalogues(
            "INSERT INTO catalogues(name, location, position) VALUES($1, $2, (SELECT COALESCE(MAX(position), 0) + 1 FROM "
                + "catalogues))",
            catalogue.Name.Text, catalogue.Location);
        foreach (var app in Apps().Where(app => app.Catalogue == catalogue.Name && app.CatalogueLocation != catalogue.Location))
            WriteApp(app.Id, app with { CatalogueLocation = catalogue.Location });
    }

    /// <summary>Pauses a catalogue, or takes it up again; false where there is none of this name.</summary>
    public bool Pause(CatalogueName name, bool paused) =>
        ChangeCatalogues("UPDATE catalogues SET paused = $2 WHERE name = $1", name.Text, paused ? 1 : 0) > 0;

    /// <summary>
    /// Puts catalogues into an order of preference; those that are not named follow in the order that they had.
    /// </summary>
    public void Rank(IReadOnlyList<CatalogueName> first)
    {
        var order = first.Concat(Catalogues().Select(catalogue => catalogue.Name).Where(name => !first.Contains(name))).ToList();
        using var transaction = _database.Begin();
        for (var at = 0; at < order.Count; at++)
            ChangeCatalogues("UPDATE catalogues SET position = $2 WHERE name = $1", order[at].Text, at + 1);
        transaction.Commit();
    }

    /// <summary>Forgets a catalogue; false where there is none of this name.</summary>
    public bool DropCatalogue(CatalogueName name) => ChangeCatalogues("DELETE FROM catalogues WHERE name = $1", name.Text) > 0;

    /// <summary>Opens the record of a run, with all that it is about to do, and tells its number.</summary>
    public long BeginRun(string command, Plan plan)
    {
        using var transaction = _database.Begin();
        var number = _database.Number("INSERT INTO runs(command, begun) VALUES($1, $2) RETURNING number", command, Now());
        foreach (var item in plan.Items) WriteItem(number, item, OutcomeWords.NotEnded, null);
        transaction.Commit();
        Steps.Pass();
        return number;
    }

    /// <summary>Adds a catalogue as a part of a run, which from then on is on its record.</summary>
    public void AddCatalogue(long run, RegisteredCatalogue catalogue)
    {
        using var transaction = _database.Begin();
        Insert(catalogue);
        _database.Run(
            "INSERT INTO run_catalogues(run, name, location) VALUES($1, $2, $3)", run, catalogue.Name.Text, catalogue.Location);
        transaction.Commit();
        Steps.Pass();
    }

    /// <summary>The catalogues that a run has added, in the order of their names.</summary>
    public IReadOnlyList<RegisteredCatalogue> CataloguesOf(long run) => _database.Query(
        "SELECT name, location FROM run_catalogues WHERE run = $1 ORDER BY name",
        row => new RegisteredCatalogue(CatalogueName.Parse(row.Text(0)), row.Text(1)), run);

    /// <summary>The run of a number, or the latest of which something is left to do; null where there is none.</summary>
    /// <param name="number">The number of the run; null for the latest.</param>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public RecordedRun? RunLeft(long? number)
    {
        var runs = _database.Query(
            "SELECT number, command FROM runs WHERE $1 IS NULL OR number = $1 ORDER BY number DESC",
            row => (Number: row.Number(0), Command: row.Text(1)), number);
        foreach (var run in runs)
        {
            var recorded = new RecordedRun(run.Number, run.Command, ItemsOf(run.Number));
            if (number is not null || recorded.IsLeft) return recorded;
        }

        return null;
    }

    /// <summary>The items of a run, in the order of its plan.</summary>
    /// <exception cref="ProblemException">A record cannot be read.</exception>
    public IReadOnlyList<RecordedItem> ItemsOf(long run) => _database.Query(
        "SELECT app, action, to_version, outcome, reference, stated_sha256, installer_arguments, before, after FROM run_items "
            + "WHERE "
            + "run = $1 ORDER BY rowid",
        row => ReadItem(run, row), run);

    /// <summary>Closes the record of a run.</summary>
    public void EndRun(long number, RunReport report)
    {
        using var transaction = _database.Begin();
        foreach (var item in report.Items)
            WriteItem(number, item.Item, OutcomeWords.Outcomes.WordOf(item.Outcome), item.Problem?.What);
        _database.Run(
            "UPDATE runs SET ended = $2, interrupted = $3 WHERE number = $1", number, Now(), report.Interrupted ? 1 : 0);
        transaction.Commit();
    }

    /// <inheritdoc/>
    public void Dispose() => _database.Dispose();

    private int ChangeCatalogues(string sql, params ReadOnlySpan<object?> values)
    {
        _catalogues = null;
        return _database.Run(sql, values);
    }

    private static Database OpenToChange(string file, bool isPrivate)
    {
        var database = Database.Open(file, isPrivate);
        try
        {
            database.Run("PRAGMA synchronous=FULL");
            if (RecordSchema.IsCurrent(database, file)) return database;
            database.Run("PRAGMA journal_mode=WAL");
            RecordSchema.Migrate(database, file);
            return database;
        }
        catch
        {
            database.Dispose();
            throw;
        }
    }

    /// <summary>
    /// Records of an older version are read from a copy in memory that has been brought up to date: nothing is written by a
    /// command that only reads.
    /// </summary>
    private static Database OpenToRead(string file)
    {
        if (!PublicCopy.IsNeeded(file)) Database.RequireWithItsLog(file);
        var database = Posix.IsMissing(file) ? Database.Open(null) : Database.OpenToRead(file);
        try
        {
            if (RecordSchema.IsCurrent(database, file)) return database;
            var copy = database.CopyInMemory();
            database.Dispose();
            database = copy;
            RecordSchema.Migrate(database, file);
            return database;
        }
        catch
        {
            database.Dispose();
            throw;
        }
    }

    private static InstalledApp ReadApp(string id, string record)
    {
        try
        {
            var app = InstalledAppJson.Read(record);
            return app.Id.Text == id ? app : throw new MalformedException($"it is the record of {app.Id}");
        }
        catch (MalformedException fault)
        {
            throw Unreadable($"the record of {id} cannot be read", fault);
        }
    }

    private static AppId ReadId(string text)
    {
        try
        {
            return AppId.Parse(text);
        }
        catch (MalformedException fault)
        {
            throw Unreadable($"the records hold \"{text}\", which is not the id of an app", fault);
        }
    }

    private static ProblemException Unreadable(string what, MalformedException fault) => new Problem(
        ProblemCode.StateNeedsAttention, what, fault.Message, DatabaseRepair.AdviceFor(DatabaseRepair.RecordsName))
            .ToException(fault);

    private void WriteApp(AppId id, InstalledApp? app)
    {
        if (app is null) _database.Run("DELETE FROM apps WHERE id = $1", id.Text);
        else _database.Run("INSERT OR REPLACE INTO apps(id, record) VALUES($1, $2)", id.Text, InstalledAppJson.Write(app));
    }

    /// <summary>Writes an item with the whole state of its app before it, and after it as far as that has come about.</summary>
    private void WriteItem(long run, PlanItem item, string outcome, string? reason)
    {
        var catalogue = item.Offer?.Catalogue ?? item.Installed?.Catalogue;
        var after = outcome == OutcomeWords.NotEnded || !AppId.TryParse(item.Id, out var id) ? null : Find(id);
        _database.Run(
            """
            INSERT OR REPLACE INTO run_items(run, app, action, from_version, to_version, outcome, reason, reference,
                stated_sha256, installer_arguments, before, after)
            VALUES($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
            """,
            run, item.Id, ActionWords.Actions.WordOf(item.Action), item.From?.Text, item.To?.Text, outcome, reason,
            new AppReference(catalogue, item.Id, item.Follows).ToString(), item.StatedSha256?.Hex,
            Packed(item.InstallerArguments),
            Record(item.Installed), Record(after));
    }

    private static string? Record(InstalledApp? app) => app is null ? null : InstalledAppJson.Write(app);

    private static byte[]? Packed(IReadOnlyList<string> arguments) =>
        arguments.Count > 0 ? Encoding.UTF8.GetBytes(string.Join(BetweenArguments, arguments)) : null;

    private static RecordedItem ReadItem(long run, Row row)
    {
        try
        {
            var reference = AppReference.Parse(Text(4) ?? row.Text(0));
            Outcome? outcome = row.Text(3) == OutcomeWords.NotEnded ? null : OutcomeWords.Outcomes.Read(row.Text(3));
            return new RecordedItem(
                reference, ActionWords.Actions.Read(row.Text(1)), Text(2) is { } to ? AppVersion.Parse(to) : null, outcome)
            {
                StatedSha256 = Text(5) is { } digest ? Sha256Digest.Parse(digest) : null,
                InstallerArguments = row.IsNull(6) ? [] : Encoding.UTF8.GetString(row.Bytes(6)).Split(BetweenArguments),
                Before = Text(7) is { } before ? ReadApp(row.Text(0), before) : null,
                After = Text(8) is { } after ? ReadApp(row.Text(0), after) : null,
            };
        }
        catch (MalformedException fault)
        {
            throw Unreadable($"what run {run} did with {row.Text(0)} cannot be read", fault);
        }

        string? Text(int column) => row.IsNull(column) ? null : row.Text(column);
    }

    private string Now() => _clock.GetUtcNow().ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture);
}
