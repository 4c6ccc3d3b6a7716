namespace AmberCrate.Engine.Indexing;

/// <summary>
/// The tables of the catalogue cache.
/// <list type="bullet">
/// <item><c>cards</c> holds every line of every known part, in the order they came; <c>apps</c> has the texts of those
/// that are in force, by the same number.</item>
/// <item><c>texts</c> is the full-text index over them. Its row numbers are the apps' places, and these are assigned so that
/// what ranks first among equal matches comes first: a search reads from the beginning and stops when it has enough.</item>
/// <item><c>names</c> is the same for the names alone: it counts their frequent words without going through all the
/// texts that have it.</item>
/// <item><c>words</c> are those of the index, for <see cref="IndexVocabulary"/>; <c>stems</c> has those that have another
/// stem than themselves.</item>
/// <item><c>translations</c> has the texts in other languages, whose words are in the index with their language.</item>
/// <item><c>popularity</c> is what catalogues have counted, <c>purposes</c> are those of <see cref="KnownPurposes"/>,
/// <c>signs</c> those of <see cref="SoftwareFingerprints"/>, and <c>bundles</c> those that catalogues carry.</item>
/// </list>
/// </summary>
internal static class CatalogueTables
{
    /// <summary>The version of the tables; another one is thrown away.</summary>
    public const int Version = 14;

    public const string Create = """
        CREATE TABLE catalogues(number INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE, location TEXT NOT NULL,
            title TEXT NOT NULL, base TEXT NOT NULL, mark TEXT,
            refreshed TEXT NOT NULL, apps INTEGER NOT NULL, tried TEXT NOT NULL, machines INTEGER NOT NULL DEFAULT 0,
            frozen TEXT NOT NULL DEFAULT '[]', fault TEXT) STRICT;
        CREATE TABLE parts(number INTEGER PRIMARY KEY, catalogue INTEGER NOT NULL, key TEXT NOT NULL, layer INTEGER NOT NULL,
            first INTEGER NOT NULL, last INTEGER NOT NULL, maintainer TEXT, mark TEXT, fault TEXT, UNIQUE(catalogue, key)) STRICT;
        CREATE TABLE cards(number INTEGER PRIMARY KEY, part INTEGER NOT NULL, id TEXT NOT NULL, line BLOB) STRICT;
        CREATE INDEX cards_by_id ON cards(id);
        CREATE TABLE apps(number INTEGER PRIMARY KEY, place INTEGER NOT NULL, catalogue INTEGER NOT NULL, app TEXT NOT NULL,
            title TEXT NOT NULL, blurb TEXT NOT NULL, releases TEXT NOT NULL, newest TEXT NOT NULL,
            kind INTEGER NOT NULL, reviewed INTEGER NOT NULL, marks TEXT NOT NULL, id TEXT NOT NULL,
            name TEXT NOT NULL, squashed TEXT NOT NULL,
            keywords TEXT NOT NULL, types TEXT NOT NULL, summary TEXT NOT NULL, categories TEXT NOT NULL,
            developer TEXT NOT NULL, areas TEXT NOT NULL, description TEXT NOT NULL, localname TEXT NOT NULL,
            localtext TEXT NOT NULL) STRICT;
        CREATE UNIQUE INDEX apps_by_place ON apps(place);
        CREATE INDEX apps_by_id ON apps(app, catalogue);
        CREATE VIRTUAL TABLE texts USING fts5(id, name, squashed, keywords, types, summary, categories, developer, areas,
            description, localname, localtext, marks,
            content='apps', content_rowid='place', columnsize=0, detail='column', tokenize='ascii');
        CREATE VIRTUAL TABLE names USING fts5(id, name, squashed, localname, marks,
            content='apps', content_rowid='place', columnsize=0, detail='column', tokenize='ascii');
        CREATE TABLE signs(sign TEXT NOT NULL, number INTEGER NOT NULL, PRIMARY KEY(sign, number)) STRICT, WITHOUT ROWID;
        CREATE TABLE bundles(catalogue INTEGER NOT NULL, name TEXT NOT NULL, sha256 TEXT NOT NULL, content BLOB NOT NULL,
            PRIMARY KEY(catalogue, name)) STRICT, WITHOUT ROWID;
        CREATE TABLE translations(number INTEGER NOT NULL, language TEXT NOT NULL, title TEXT NOT NULL, blurb TEXT NOT NULL,
            name TEXT NOT NULL, keywords TEXT NOT NULL, summary TEXT NOT NULL, description TEXT NOT NULL,
            PRIMARY KEY(number, language)) STRICT, WITHOUT ROWID;
        CREATE TABLE popularity(catalogue INTEGER NOT NULL, app TEXT NOT NULL, machines INTEGER NOT NULL,
            PRIMARY KEY(catalogue, app)) STRICT, WITHOUT ROWID;
        CREATE TABLE purposes(stem TEXT NOT NULL, catalogue INTEGER NOT NULL, asked TEXT NOT NULL, categories TEXT NOT NULL,
            words TEXT NOT NULL) STRICT;
        CREATE INDEX purposes_by_stem ON purposes(stem);
        CREATE TABLE words(word TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;
        CREATE TABLE words_reversed(word TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;
        CREATE TABLE stems(stem TEXT NOT NULL, word TEXT NOT NULL, PRIMARY KEY(stem, word)) STRICT, WITHOUT ROWID;
        """;

    /// <summary>The full-text indexes over <c>apps</c>, with the columns that each has.</summary>
    public static IReadOnlyList<(string Name, string Columns)> Indexes { get; } =
    [
        ("texts", "id, name, squashed, keywords, types, summary, categories, developer, areas, description, localname, "
            + "localtext, marks"),
        ("names", "id, name, squashed, localname, marks"),
    ];

    /// <summary>The columns that <see cref="AppRow.EntryOf"/> makes an entry from, in its order.</summary>
    public const string Entry =
        "apps.kind, apps.reviewed, apps.id, apps.name, apps.keywords, apps.types, apps.summary, apps.categories, "
            + "apps.developer, apps.areas, apps.description";
}
