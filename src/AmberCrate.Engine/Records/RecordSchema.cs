using AmberCrate.Core.Problems;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Records;

/// <summary>
/// The tables of the records, and how those of an older version become those of the next, one version at a time.
/// </summary>
internal static class RecordSchema
{
    /// <summary>The version of the tables. docs/formats/records.md says what each brought.</summary>
    public const int Version = 11;

    /// <summary>Which items of runs are still to be done; an index knows them.</summary>
    public const string IsLeft = "outcome IN ('open', 'skipped', 'in-use', 'failed')";

    private const string First = """
        CREATE TABLE apps(id TEXT PRIMARY KEY, record TEXT NOT NULL) STRICT;
        CREATE TABLE intentions(id TEXT PRIMARY KEY, after TEXT, begun TEXT NOT NULL) STRICT;
        CREATE TABLE catalogues(name TEXT PRIMARY KEY, location TEXT NOT NULL,
            position INTEGER NOT NULL, paused INTEGER NOT NULL DEFAULT 0) STRICT;
        CREATE TABLE runs(number INTEGER PRIMARY KEY, command TEXT NOT NULL, begun TEXT NOT NULL, ended TEXT,
            interrupted INTEGER NOT NULL DEFAULT 0) STRICT;
        CREATE TABLE run_items(run INTEGER NOT NULL REFERENCES runs(number), app TEXT NOT NULL, action TEXT NOT NULL,
            from_version TEXT, to_version TEXT, outcome TEXT NOT NULL, reason TEXT, PRIMARY KEY(run, app)) STRICT;
        """;

    /// <summary>What it takes to ask for the same again.</summary>
    private const string Second = "ALTER TABLE run_items ADD COLUMN reference TEXT";

    /// <summary>What was said about files and installers.</summary>
    private const string Third =
        "ALTER TABLE run_items ADD COLUMN stated_sha256 TEXT; ALTER TABLE run_items ADD COLUMN to_installer BLOB";

    /// <summary>
    /// Words instead of names in the code; the whole state of an app before and after; the catalogues that a run has added.
    /// </summary>
    private const string Fourth = """
        ALTER TABLE run_items ADD COLUMN before TEXT;
        ALTER TABLE run_items ADD COLUMN after TEXT;
        CREATE TABLE run_catalogues(run INTEGER NOT NULL REFERENCES runs(number), name TEXT NOT NULL,
            location TEXT NOT NULL, PRIMARY KEY(run, name)) STRICT;
        UPDATE run_items SET
            action = CASE action WHEN 'StayPinned' THEN 'pinned' WHEN 'Remove' THEN 'uninstall' ELSE lower(action) END,
            outcome = CASE outcome WHEN 'AppOpen' THEN 'app-open' WHEN 'NotOffered' THEN 'not-offered' ELSE lower(outcome) END;
        """;

    /// <summary>Plainer words: an app that is in use, what an app follows, the arguments of its installer.</summary>
    private static readonly string Fifth = string.Concat(
        new[] { ("apps", "record"), ("intentions", "after"), ("run_items", "before"), ("run_items", "after") }
            .Select(place => Renamed(place, "asked", "follows") + Renamed(place, "to_installer", "installer_arguments")))
        + """
        ALTER TABLE run_items RENAME COLUMN to_installer TO installer_arguments;
        UPDATE run_items SET
            action = CASE action WHEN 'pinned' THEN 'keep' ELSE action END,
            outcome = CASE outcome WHEN 'app-open' THEN 'in-use' WHEN 'pinned' THEN 'unchanged' ELSE outcome END;
        """;

    /// <summary>Pins, who began a run, and what it did to catalogues and pins.</summary>
    private const string Sixth = """
        CREATE TABLE pins(app TEXT PRIMARY KEY, pin TEXT NOT NULL) STRICT;
        CREATE TABLE run_pins(run INTEGER NOT NULL REFERENCES runs(number), app TEXT NOT NULL, before TEXT, after TEXT,
            PRIMARY KEY(run, app)) STRICT;
        ALTER TABLE run_catalogues ADD COLUMN dropped INTEGER NOT NULL DEFAULT 0;
        ALTER TABLE runs ADD COLUMN who TEXT;
        CREATE INDEX run_items_left ON run_items(run) WHERE outcome IN ('open', 'skipped', 'in-use', 'failed');
        """;

    /// <summary>The platform that was requested.</summary>
    private const string Seventh = "ALTER TABLE run_items ADD COLUMN platform TEXT";

    /// <summary>Why catalogues are believed. Nothing was signed before.</summary>
    private const string Eighth = """
        ALTER TABLE catalogues ADD COLUMN trust TEXT NOT NULL DEFAULT 'cards';
        ALTER TABLE run_catalogues ADD COLUMN trust TEXT NOT NULL DEFAULT 'cards';
        UPDATE catalogues SET trust = 'unsigned' WHERE location LIKE '%://%';
        UPDATE run_catalogues SET trust = 'unsigned' WHERE location LIKE '%://%';
        """;

    /// <summary>Where a catalogue lies, too; which data a run used although their signatures had expired.</summary>
    private const string Ninth = """
        ALTER TABLE catalogues ADD COLUMN mirrors TEXT NOT NULL DEFAULT '';
        ALTER TABLE run_catalogues ADD COLUMN mirrors TEXT NOT NULL DEFAULT '';
        ALTER TABLE runs ADD COLUMN expired TEXT NOT NULL DEFAULT '';
        """;

    /// <summary>
    /// The roots under which catalogues were trusted, by name: they outlive the catalogue, so that nobody takes its name without
    /// a signature.
    /// </summary>
    private const string Tenth = """
        CREATE TABLE trusted_roots(name TEXT PRIMARY KEY, root TEXT NOT NULL) STRICT;
        INSERT INTO trusted_roots SELECT name, trust FROM catalogues WHERE length(trust) = 64;
        """;

    /// <summary>What it takes to put an installed version back from its file, without its catalogue.</summary>
    private const string Eleventh = """
        CREATE TABLE kept_cards(app TEXT NOT NULL, sha256 TEXT NOT NULL, base TEXT NOT NULL, card TEXT NOT NULL,
            PRIMARY KEY(app, sha256)) STRICT;
        """;

    private static readonly string[] Steps =
        [First, Second, Third, Fourth, Fifth, Sixth, Seventh, Eighth, Ninth, Tenth, Eleventh];

    /// <summary>Brings a database to the current version, from an empty one on.</summary>
    /// <exception cref="ProblemException">A newer program has written it.</exception>
    public static void Migrate(Database database, string file)
    {
        RequireKnown(database, file);
        using var transaction = database.Begin();
        for (var version = database.Number("PRAGMA user_version"); version < Version; version++)
        {
            database.Run(Steps[version]);
            database.Run($"PRAGMA user_version={version + 1}");
        }

        transaction.Commit();
    }

    /// <summary>Whether a database has the tables of the current version.</summary>
    /// <exception cref="ProblemException">A newer program has written it.</exception>
    public static bool IsCurrent(Database database, string file) => RequireKnown(database, file) == Version;

    /// <summary>Renames a key of the JSON in a column. What is not JSON is left; whoever reads it reports it.</summary>
    private static string Renamed((string Table, string Column) place, string before, string after) => $"""
        UPDATE {place.Table} SET {place.Column} = json_remove(
            json_set({place.Column}, {PathOf(after)}, json({place.Column} -> {PathOf(before)})), {PathOf(before)})
        WHERE json_valid({place.Column}) AND json_type({place.Column}, {PathOf(before)}) IS NOT NULL;

        """;

    /// <summary>The path of a key. The dollar sign is spelled, since it begins a parameter in our statements.</summary>
    private static string PathOf(string key) => $"(char(36) || '.{key}')";

    private static long RequireKnown(Database database, string file)
    {
        var version = database.Number("PRAGMA user_version");
        return version <= Version ? version : throw new Problem(
            ProblemCode.StateNeedsAttention, $"the records {file} cannot be read",
            $"a newer acrate wrote them (version {version}, this one knows {Version})",
            "use the newer acrate").ToException();
    }
}
