using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Indexing;

/// <summary>Writes cards and apps with statements that are compiled once.</summary>
internal sealed class AppWriter(Database database, long catalogue) : IDisposable
{
    private readonly Statement _card = database.Prepare("INSERT INTO cards(number, part, id, line) VALUES($1, $2, $3, $4)");
    private readonly Statement _place = database.Prepare("SELECT MAX(place) FROM apps WHERE place >= $1 AND place < $2");
    private readonly Statement _sign = database.Prepare("INSERT INTO signs(sign, number) VALUES($1, $2)");
    private readonly Statement _app = database.Prepare(
        $"INSERT INTO apps(number, place, catalogue, app, title, blurb, releases, newest, kind, reviewed, marks, id, name, "
            + $"squashed, keywords, types, summary, categories, developer, areas, description, localname, localtext) "
            + $"VALUES({string.Join(", ", Enumerable.Range(1, 23).Select(at => $"${at}"))})");
    private readonly Statement _translation = database.Prepare(
        "INSERT INTO translations(number, language, title, blurb, name, keywords, summary, description) "
            + "VALUES($1, $2, $3, $4, $5, $6, $7, $8)");

    /// <summary>Writes a line.</summary>
    public void AddCard(long number, long part, AppRow row) => _card.Run(number, part, row.Id.Text, row.Line);

    /// <summary>Puts a line in force. The index does not have it then.</summary>
    public void AddApp(long number, AppRow row)
    {
        var entry = row.Entry!;
        _app.Run(
            number, FreePlace(row.FirstPlace), catalogue, row.Id.Text, row.Name, row.Summary, row.Releases, row.Newest,
            (long)entry.Kind, entry.Reviewed ? 1L : 0L, $"{row.Marks} {FilterTokens.OfCatalogue(catalogue)}",
            entry.Id, entry.Name, entry.Squashed, entry.Keywords, entry.Types, entry.Summary, entry.Categories,
            entry.Developer, entry.Areas, entry.Description, string.Join(' ', entry.Local.Select(text => text.MarkedNames)),
            string.Join(' ', entry.Local.Select(text => text.MarkedTexts)));
        foreach (var (said, text) in row.Translations.Zip(entry.Local)) _translation.Run(
            number, text.Language, said.Name ?? "", said.Summary ?? "", text.Name, text.Keywords, text.Summary,
            text.Description);
        foreach (var sign in row.Signs) _sign.Run(sign, number);
    }

    public void Dispose()
    {
        _card.Dispose();
        _place.Dispose();
        _app.Dispose();
        _sign.Dispose();
        _translation.Dispose();
    }

    /// <summary>The place behind those of apps that are alike; where there is no more room, behind the next ones.</summary>
    private long FreePlace(long first)
    {
        for (var from = first; ; from += AppRow.PerPlace)
        {
            var taken = _place.Number(from, from + AppRow.PerPlace);
            if (taken is null) return from;
            if (taken < from + AppRow.PerPlace - 1) return taken.Value + 1;
        }
    }
}
