using System.Globalization;
using System.Text;
using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Storage;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Records;

/// <summary>
/// What a root remembers: apps, unsettled intentions, catalogues and runs. One SQLite database with a write-ahead log
/// and full synchronisation, so that what has been settled survives a power loss.
/// </summary>
public sealed partial class RecordStore : IDisposable
{
    private readonly Database _database;
    private readonly TimeProvider _clock;

    private IReadOnlyList<RegisteredCatalogue>? _catalogues;

    /// <summary>The apps as they were last read or written; we are the only writer.</summary>
    private IReadOnlyList<InstalledApp>? _apps;
    private IReadOnlyList<Problem> _unreadable = [];

    private RecordStore(Database database, TimeProvider clock) => (_database, _clock) = (database, clock);

    /// <summary>Opens the records of a root.</summary>
    /// <param name="layout">The root.</param>
    /// <param name="clock">The clock of what is recorded.</param>
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
            throw IoProblems.ToProblem(fault, $"the records {layout.RecordsFile} cannot be opened").ToException(fault);
        }
    }

    /// <summary>
    /// A number that becomes another one when another process changes the records (SQLite's <c>data_version</c>).
    /// </summary>
    public long ChangesByOthers() => _database.Number("PRAGMA data_version");

    /// <summary>Whether the latest run was cut off.</summary>
    public bool WasCutOff() =>
        _database.Number("SELECT COALESCE((SELECT ended IS NULL FROM runs ORDER BY number DESC LIMIT 1), 0)") != 0;

    /// <summary>Every app on record whose record can be read; <see cref="Unreadable()"/> has the others.</summary>
    public IReadOnlyList<InstalledApp> Apps()
    {
        if (_apps is not null) return _apps;
        List<Problem> unreadable = [];
        var apps = _database.Query("SELECT record, id FROM apps ORDER BY id", row =>
        {
            try
            {
                return ReadApp(row.Text(1), row.Text(0));
            }
            catch (ProblemException fault)
            {
                unreadable.Add(fault.Problem);
                return null;
            }
        });
        _unreadable = unreadable;
        return _apps = [.. apps.OfType<InstalledApp>()];
    }

    /// <summary>The records of apps that cannot be read. They stop no command about other apps.</summary>
    public IReadOnlyList<Problem> Unreadable()
    {
        _ = Apps();
        return _unreadable;
    }

    /// <summary>
    /// Removes what stands under a name that no app can have: it came from outside, and nothing can be done with it.
    /// </summary>
    public void RemoveNameless()
    {
        foreach (var table in new[] { "apps", "intentions" })
            foreach (var id in _database.Query($"SELECT id FROM {table}", row => row.Text(0))
                .Where(id => !AppId.TryParse(id, out _)))
            {
                _apps = null;
                _database.Run($"DELETE FROM {table} WHERE id = $1", id);
            }
    }

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
        CrashPoints.Pass();
    }

    /// <summary>Puts an intention on record: from now on the app may be anything between its record and this.</summary>
    /// <param name="id">The app.</param>
    /// <param name="after">The state to be reached; null for "not there".</param>
    /// <param name="kept">What to keep of its card; null for nothing.</param>
    public void Intend(AppId id, InstalledApp? after, KeptCard? kept = null)
    {
        CrashPoints.Pass();
        using var transaction = _database.Begin();
        _database.Run(
            "INSERT OR REPLACE INTO intentions(id, after, begun) VALUES($1, $2, $3)", id.Text,
            after is null ? null : InstalledAppJson.Write(after), Now());
        if (kept is not null)
            _database.Run(
                "INSERT OR REPLACE INTO kept_cards(app, sha256, base, card) VALUES($1, $2, $3, $4)", kept.Id.Text,
                kept.Sha256.Hex, kept.Base.AbsoluteUri, Encoding.UTF8.GetString(CardJson.Write(kept.Card)));
        transaction.Commit();
        CrashPoints.Pass();
    }

    /// <summary>What was kept of an app's card when a version was installed; null if nothing was, or it cannot be read.</summary>
    /// <param name="id">The app.</param>
    /// <param name="sha256">The digest of the version's file.</param>
    public KeptCard? KeptCardOf(AppId id, Sha256Digest sha256) => _database.Query(
        "SELECT base, card FROM kept_cards WHERE app = $1 AND sha256 = $2",
        row => Uri.TryCreate(row.Text(0), UriKind.Absolute, out var address) && ReadCardOrNull(row.Text(1)) is { } card
            ? new KeptCard(id, sha256, address, card)
            : null, id.Text, sha256.Hex).FirstOrDefault();

    private static AppCard? ReadCardOrNull(string text)
    {
        try
        {
            return CardJson.Read(Encoding.UTF8.GetBytes(text));
        }
        catch (MalformedException)
        {
            return null;
        }
    }

    /// <summary>Settles an intention: from now on the app is this, and nothing else.</summary>
    /// <param name="id">The app.</param>
    /// <param name="app">Its state; null for not installed.</param>
    /// <param name="isPlaced">Whether all its things have just been placed.</param>
    public void CommitState(AppId id, InstalledApp? app, bool isPlaced = true)
    {
        if (app is not null && isPlaced) app = app with { PlacedAt = _clock.GetUtcNow() };
        using var transaction = _database.Begin();
        WriteApp(id, app);
        _database.Run("DELETE FROM intentions WHERE id = $1", id.Text);
        CrashPoints.Pass();
        transaction.Commit();
        CrashPoints.Pass();
    }

    /// <summary>Intentions that were never settled.</summary>
    public IReadOnlyList<(AppId Id, InstalledApp? After)> Intentions() => [.. _database.Query(
        "SELECT id, after FROM intentions ORDER BY begun, id",
        row => (Id: row.Text(0), After: row.IsNull(1) ? null : row.Text(1)))
        .Where(row => AppId.TryParse(row.Id, out _))
        .Select(row => (AppId.Parse(row.Id), row.After is null ? null : ReadAppOrNull(row.Id, row.After)))];

    /// <summary>The record of an app; null if it cannot be read.</summary>
    private static InstalledApp? ReadAppOrNull(string id, string record)
    {
        try
        {
            return ReadApp(id, record);
        }
        catch (ProblemException)
        {
            return null;
        }
    }

    /// <summary>The catalogues, in order of preference.</summary>
    public IReadOnlyList<RegisteredCatalogue> Catalogues() => _catalogues ??= _database.Query(
        "SELECT name, location, paused, trust, mirrors FROM catalogues ORDER BY position, name",
        row => new RegisteredCatalogue(CatalogueName.Parse(row.Text(0)), row.Text(1), row.Truth(2))
        {
            Trust = CatalogueTrust.Parse(row.Text(3)), Mirrors = MirrorsIn(row.Text(4)),
        });

    /// <summary>Mirrors as they are written: one a line.</summary>
    private static string Written(IEnumerable<string> mirrors) => string.Join('\n', mirrors);

    private static string[] MirrorsIn(string text) => text.Split('\n', StringSplitOptions.RemoveEmptyEntries);

    /// <summary>Adds a catalogue behind the others. The apps of its name belong to it from now on.</summary>
    public void AddCatalogue(RegisteredCatalogue catalogue)
    {
        using var transaction = _database.Begin();
        Insert(catalogue);
        transaction.Commit();
    }

    /// <summary>
    /// The root of the catalogue with this name, also after the catalogue was dropped. Null if it was never signed, or if the
    /// user has since added an unsigned one.
    /// </summary>
    public Sha256Digest? RootOf(CatalogueName name) =>
        _database.Query("SELECT root FROM trusted_roots WHERE name = $1", row => Sha256Digest.Parse(row.Text(0)), name.Text)
            .FirstOrDefault();

    private void Insert(RegisteredCatalogue catalogue)
    {
        if (catalogue.Trust.Root is { } root)
            _database.Run("INSERT OR REPLACE INTO trusted_roots(name, root) VALUES($1, $2)", catalogue.Name.Text, root.Hex);
        else _database.Run("DELETE FROM trusted_roots WHERE name = $1", catalogue.Name.Text);
        ChangeCatalogues(
            "INSERT INTO catalogues(name, location, position, trust, mirrors) VALUES($1, $2, (SELECT COALESCE(MAX(position), 0) "
                + "+ 1 FROM catalogues), $3, $4)",
            catalogue.Name.Text, catalogue.Location, catalogue.Trust.Text, Written(catalogue.Mirrors));
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
            throw new Problem(
                ProblemCode.StateNeedsAttention, $"the record of {id} cannot be read", fault.Message,
                AppId.TryParse(id, out _)
                    ? Advice.Combine($"{NextCommand.Create("install", id)}, which records it again")
                    : "no app has such an id; the next command that changes something removes this record").ToException(fault);
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
        _apps = null;
        if (app is null) _database.Run("DELETE FROM apps WHERE id = $1", id.Text);
        else _database.Run("INSERT OR REPLACE INTO apps(id, record) VALUES($1, $2)", id.Text, InstalledAppJson.Write(app));
    }

    private string Now() => Text(_clock.GetUtcNow());

    private static string Text(DateTimeOffset time) =>
        time.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture);
}
