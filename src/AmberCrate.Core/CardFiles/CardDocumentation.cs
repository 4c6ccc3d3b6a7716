using AmberCrate.Core.Cards;
using AmberCrate.Core.Formats;

namespace AmberCrate.Core.CardFiles;

/// <summary>What the documentation says about the keys of a card, from the table that reads and writes them.</summary>
public static class CardDocumentation
{
    /// <summary>The name of the table of the card itself.</summary>
    public const string Card = "card";

    /// <summary>
    /// A Markdown table for each table of a card. Each has the name of the key that it belongs to; keys with the same table
    /// stand together, such as <c>place.mime_types, place.fonts</c>.
    /// </summary>
    public static IReadOnlyList<(string Name, string Markdown)> Tables { get; } =
    [
        .. TablesIn(Card, CardKeys.Table)
            .GroupBy(found => found.Table)
            .Select(group => (string.Join(", ", group.Select(found => found.Name).Distinct()), Markdown(group.First()))),
    ];

    private static IEnumerable<(string Name, IKeyTable Table)> TablesIn(string name, IKeyTable table)
    {
        yield return (name, table);
        foreach (var key in table.Keys)
        {
            if (key.Format.Table is not { } inner) continue;
            foreach (var found in TablesIn(NameOf(name, key.Name), inner)) yield return found;
        }
    }

    // What a release places has the keys of what its card places.
    private static string NameOf(string outer, string key) =>
        key is PlacementKeys.Name or RequirementKeys.Name || outer == Card ? key : $"{outer}.{key}";

    private static string Markdown((string Name, IKeyTable Table) found) => string.Join('\n',
    [
        "| Key | Type | | Meaning |",
        "|---|---|---|---|",
        .. found.Name == Card
            ? [$"| `{AppCard.FormatKey}` | integer | required | the version of the format: {AppCard.FormatVersion} |"]
            : Array.Empty<string>(),
        .. found.Table.Keys.Select(key => $"| `{key.Name}` | {key.Format.Type} |{(key.IsRequired ? " required" : "")} | "
            + $"{Meaning(key)} |"),
    ]);

    private static string Meaning(IKey key)
    {
        var words = string.Join(", ", key.Format.Words.Select(word => $"`{word}`"));
        return words.Length == 0 ? key.Meaning : $"{key.Meaning}: {words}";
    }
}
