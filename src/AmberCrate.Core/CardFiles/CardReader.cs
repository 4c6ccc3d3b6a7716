using AmberCrate.Core.Cards;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.CardFiles;

/// <summary>Reads an app card. All faults of a file are found in one pass, each with line, key and what was expected.</summary>
public static class CardReader
{
    /// <summary>Reads a card from its text; null when faults were added.</summary>
    /// <param name="text">The file's text.</param>
    /// <param name="file">The file's name for messages.</param>
    /// <param name="faults">Takes the faults.</param>
    public static AppCard? Read(string text, string file, ICollection<FormatFault> faults)
    {
        var found = new List<FormatFault>();
        var card = TomlText.Read(text, file, found) is { } root ? Read(root, file, found) : null;
        foreach (var fault in found.OrderBy(fault => fault.Line)) faults.Add(fault);
        return found.Count == 0 ? card : null;
    }

    private static AppCard? Read(TomlTable root, string file, List<FormatFault> faults)
    {
        var table = new TableReader(root, file, "", faults);
        table.Number(AppCard.FormatKey, AppCard.FormatVersion, AppCard.FormatVersion, required: true);
        var card = CardKeys.Table.Read(table);
        if (file.EndsWith(AppCard.FileEnding, StringComparison.Ordinal) && root.Entries.GetValueOrDefault("id") is TomlString id
            && AppId.TryParse(id.Value, out _) && id.Value != FileStem(file))
            table.AddFault("id", $"expected the id that the file is named after, \"{FileStem(file)}\", found \"{id.Value}\"");
        if (card is null || faults.Count > 0) return null;

        foreach (var (key, message) in CardRules.Broken(card)) faults.Add(new FormatFault(file, root.LineOf(key), key, message));
        return CardRules.NewestFirst(card);
    }

    private static string FileStem(string file) => file[(file.LastIndexOf('/') + 1)..^AppCard.FileEnding.Length];
}
