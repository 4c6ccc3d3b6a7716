using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Drafting;

/// <summary>A desktop entry as a vendor ships it, after the freedesktop Desktop Entry specification.</summary>
public sealed record ShippedEntry
{
    private static readonly string[] Localised = ["Name", "Comment", "Keywords"];

    /// <summary>The file's name without <c>.desktop</c>.</summary>
    public required string Name { get; init; }

    /// <summary>The keys of the main group, without languages.</summary>
    public required IReadOnlyDictionary<string, string> Keys { get; init; }

    /// <summary>The localised texts by language.</summary>
    public IReadOnlyList<Translation> Translations { get; init; } = [];

    /// <summary>Whether menus show it.</summary>
    public bool IsShown => Value("NoDisplay") != "true" && Value("Hidden") != "true" && Value("Type") is null or "Application";

    /// <summary>The program that it starts, as it was written; null where it starts none.</summary>
    public string? Program => Words is [var program, ..] ? program.Trim('"') : null;

    /// <summary>The arguments that it gives. The codes that the desktop replaces by files and names are left out.</summary>
    public IReadOnlyList<string> Arguments =>
        [.. Words.Skip(1).Where(word => !word.StartsWith('%')).Select(word => word.Trim('"'))];

    private List<string> Words => [.. (Value("Exec") ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries)
        .SkipWhile(word => word == "env" || word.Contains('=', StringComparison.Ordinal))];

    /// <summary>The value of a key; null where it is not there, or empty.</summary>
    public string? Value(string key) => Keys.GetValueOrDefault(key) is { Length: > 0 } value ? value : null;

    /// <summary>The parts of a value that is a list.</summary>
    public IReadOnlyList<string> List(string key) => Split(Value(key) ?? "");

    /// <summary>Reads an entry. Lines that are none are passed over: the desktop does so too.</summary>
    public static ShippedEntry Read(string name, string text)
    {
        var keys = new Dictionary<string, string>(StringComparer.Ordinal);
        var local = new Dictionary<string, Dictionary<string, string>>(StringComparer.Ordinal);
        var isMain = false;
        foreach (var line in text.ReplaceLineEndings("\n").Split('\n'))
        {
            if (line.StartsWith('[')) isMain = line.Trim() == "[Desktop Entry]";
            var at = line.IndexOf('=', StringComparison.Ordinal);
            if (!isMain || at < 1 || line.StartsWith('#')) continue;
            var (key, value) = (line[..at].Trim(), Unescaped(line[(at + 1)..].Trim()));
            var bracket = key.IndexOf('[', StringComparison.Ordinal);
            if (bracket < 0) keys.TryAdd(key, value);
            else if (key.EndsWith(']') && Localised.Contains(key[..bracket])
                && LanguageTag.TryParse(key[(bracket + 1)..^1], out var language) && value.Length > 0)
            {
                if (!local.TryGetValue(language!, out var said)) local.Add(language!, said = new(StringComparer.Ordinal));
                said.TryAdd(key[..bracket], value);
            }
        }

        return new ShippedEntry
        {
            Name = name, Keys = keys,
            Translations = [.. local.OrderBy(said => said.Key, StringComparer.Ordinal).Select(said => new Translation(
                said.Key, said.Value.GetValueOrDefault("Name"), said.Value.GetValueOrDefault("Comment"),
                Split(said.Value.GetValueOrDefault("Keywords") ?? ""), null))],
        };
    }

    private static List<string> Split(string value) =>
        [.. value.Split(';', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)];

    private static string Unescaped(string value) => value
        .Replace("\\s", " ", StringComparison.Ordinal).Replace("\\n", " ", StringComparison.Ordinal)
        .Replace("\\t", " ", StringComparison.Ordinal).Replace("\\;", ",", StringComparison.Ordinal)
        .Replace("\\\\", "\\", StringComparison.Ordinal);
}
