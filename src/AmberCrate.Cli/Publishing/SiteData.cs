using System.Text.Encodings.Web;
using System.Text.Json;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Searching;

namespace AmberCrate.Cli.Publishing;

/// <summary>
/// The data of a catalogue's first page, as two scripts: what it shows of each app, and the folded texts that apps are found by.
/// Scripts are read from a folder too, where a browser reads nothing else. Foreign text is made safe here, and written as JSON,
/// which is script that does nothing.
/// </summary>
internal static class SiteData
{
    private static readonly JsonWriterOptions Layout = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>What is shown of each app: a row an app, in the order of the cards.</summary>
    public static byte[] Facts(IReadOnlyList<AppCard> cards, Popularity? popularity) => Script("crateApps", json =>
    {
        List<string> categories = [.. cards.SelectMany(card => card.Categories).Distinct().Order(StringComparer.Ordinal)];
        List<string> licences = [.. cards.Select(card => card.Licence).OfType<string>().Distinct().Order(StringComparer.Ordinal)];
        var category = Numbers(categories);
        var licence = Numbers(licences);
        Strings(json, "kinds", Enum.GetValues<AppKind>().Order().Select(Words.WordFor));
        Strings(json, "categories", categories);
        Strings(json, "licences", licences);
        json.WriteStartArray("rows");
        foreach (var card in cards)
        {
            var newest = FollowChoice.NewestOf(card);
            json.WriteStartArray();
            json.WriteStringValue(card.Id.Text);
            foreach (var text in new[] { card.Name, card.Summary, card.Developer?.Name })
                json.WriteStringValue(Printable.Line(text ?? ""));
            json.WriteNumberValue((int)card.Kind);
            json.WriteStartArray();
            foreach (var name in card.Categories) json.WriteNumberValue(category[name]);
            json.WriteEndArray();
            json.WriteNumberValue(card.Licence is { } said ? licence[said] : -1);
            json.WriteStringValue(newest?.Version.Text ?? "");
            json.WriteStringValue(newest is null ? "" : PlainText.Date(newest.Date));
            json.WriteNumberValue(popularity?.Apps.GetValueOrDefault(card.Id.Text) ?? 0);
            json.WriteNumberValue(card.Review.State == ReviewState.Reviewed ? 1 : 0);
            json.WriteStartArray();
            foreach (var choice in newest is null ? [] : FollowChoice.ListFor(card))
            {
                json.WriteStartArray();
                json.WriteStringValue(choice.Selector.ToString());
                json.WriteStringValue(choice.Newest.Text);
                json.WriteEndArray();
            }

            json.WriteEndArray();
            json.WriteEndArray();
        }

        json.WriteEndArray();
    });

    /// <summary>The texts that apps are found by: a row an app, in the same order.</summary>
    public static byte[] Texts(IReadOnlyList<AppCard> cards, IReadOnlyList<Purpose> purposes) => Script("crateWords", json =>
    {
        json.WriteStartArray("accents");
        foreach (var (letter, plain) in SearchLexicon.Accents) Row(json, [letter.ToString(), plain]);
        json.WriteEndArray();
        Strings(json, "fillers", SearchLexicon.Fillers);
        json.WriteStartArray("synonyms");
        foreach (var (stem, same) in Purpose.Synonyms) Row(json, [stem, same]);
        json.WriteEndArray();
        json.WriteStartArray("purposes");
        foreach (var purpose in purposes)
        {
            json.WriteStartArray();
            json.WriteStartArray();
            foreach (var phrase in purpose.Asked) Row(json, Purpose.StemsOf(phrase));
            json.WriteEndArray();
            Row(json, purpose.Categories);
            Row(json, purpose.Words);
            json.WriteEndArray();
        }

        json.WriteEndArray();
        json.WriteStartArray("rows");
        foreach (var entry in cards.Select(SearchEntry.FromCard))
            Row(json, [
                entry.Id, entry.Name, entry.Keywords, entry.Types, entry.Categories, entry.Areas, entry.Developer, entry.Summary,
                entry.Description,
            ]);
        json.WriteEndArray();
    });

    /// <summary>
    /// The texts in one other language, those that are shown and the folded ones: a row for each app that has some, with its
    /// place among the cards.
    /// </summary>
    public static byte[] Local(IReadOnlyList<AppCard> cards, string language) => Script("crateLocal", json =>
    {
        json.WriteString("language", language);
        Strings(json, "fillers", SearchLexicon.FillersOf(language));
        json.WriteStartArray("rows");
        for (var at = 0; at < cards.Count; at++)
        {
            if (cards[at].Translations.FirstOrDefault(said => said.Language == language) is not { } said) continue;
            var folded = LocalTexts.FromTranslation(said);
            json.WriteStartArray();
            json.WriteNumberValue(at);
            foreach (var text in new[]
            {
                Printable.Line(said.Name ?? ""), Printable.Line(said.Summary ?? ""), folded.Name, folded.Keywords, folded.Summary,
                folded.Description,
            }) json.WriteStringValue(text);
            json.WriteEndArray();
        }

        json.WriteEndArray();
    });

    private static Dictionary<string, int> Numbers(List<string> words) =>
        words.Select((word, at) => (word, at)).ToDictionary(pair => pair.word, pair => pair.at, StringComparer.Ordinal);

    private static void Strings(Utf8JsonWriter json, string name, IEnumerable<string> texts)
    {
        json.WritePropertyName(name);
        Row(json, texts);
    }

    private static void Row(Utf8JsonWriter json, IEnumerable<string> texts)
    {
        json.WriteStartArray();
        foreach (var text in texts) json.WriteStringValue(text);
        json.WriteEndArray();
    }

    private static byte[] Script(string function, Action<Utf8JsonWriter> write)
    {
        using var stream = new MemoryStream();
        stream.Write(System.Text.Encoding.UTF8.GetBytes($"{function}("));
        using (var json = new Utf8JsonWriter(stream, Layout))
        {
            json.WriteStartObject();
            write(json);
            json.WriteEndObject();
        }

        stream.Write(");\n"u8);
        return stream.ToArray();
    }
}
