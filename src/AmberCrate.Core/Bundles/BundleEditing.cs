using System.Text;
using AmberCrate.Core.Toml;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Bundles;

/// <summary>
/// Changes the text of a bundle where it must change, and nowhere else: comments, order and white space stay.
/// </summary>
public static class BundleEditing
{
    /// <summary>Puts entries into a bundle. An entry that is there already gets the new reference, and keeps all else.</summary>
    /// <param name="text">The text; it must be a valid bundle.</param>
    /// <param name="apps">The entries.</param>
    /// <param name="catalogues">The catalogues that they come from.</param>
    public static string Include(string text, IReadOnlyList<BundleApp> apps, IReadOnlyList<BundleCatalogue> catalogues)
    {
        var root = Root(text);
        var entries = Entries(root);
        var edited = new StringBuilder(text);
        var edits = new List<(TomlString Token, string Value)>();
        var added = new StringBuilder();
        var known = Tables(root, "catalogues").Select(entry => ((TomlString)entry.Entries["name"]).Value).ToHashSet();
        foreach (var catalogue in catalogues.Where(catalogue => known.Add(catalogue.Name.Text)))
            added.Append(BundleWriter.Block(catalogue));
        foreach (var app in apps)
        {
            if (entries.TryGetValue(app.Reference.Name, out var entry))
                edits.Add(((TomlString)entry.Entries["reference"], app.Reference.ToString()));
            else added.Append(BundleWriter.Block(app));
        }

        Replace(edited, edits);
        Append(edited, added);
        return edited.ToString();
    }

    /// <summary>
    /// Takes entries out of a bundle: their lines go, and the comments above them stay. A catalogue is removed if no
    /// entry names it any more. What a layer below has is named in <c>drops</c>.
    /// </summary>
    /// <param name="text">The text; it must be a valid bundle.</param>
    /// <param name="own">The entries of this file to take out.</param>
    /// <param name="below">The apps of layers below to drop.</param>
    /// <exception cref="MalformedException">An entry is written in a way that cannot be edited line by line.</exception>
    public static string Drop(string text, IReadOnlyCollection<string> own, IReadOnlyCollection<string> below)
    {
        var root = Root(text);
        var lines = LinesOf(text);
        var headers = Headers(root, lines);
        var gone = new SortedSet<int>();
        var entries = Entries(root);
        var apps = entries.Where(pair => own.Contains(pair.Key)).Select(pair => (pair.Key, pair.Value, "apps"));
        foreach (var (name, entry, kind) in apps.Concat(IdleCatalogues(root, entries, own)))
        {
            if (!lines[entry.Line - 1].TrimStart().StartsWith("[[", StringComparison.Ordinal))
                throw new MalformedException($"the entry {name} in line {entry.Line} is not written as [[{kind}]]");
            var within = Within(entry).ToHashSet();
            var next = headers.Where(line => line > entry.Line && !within.Contains(line));
            var end = next.DefaultIfEmpty(lines.Count + 1).Min() - 1;
            while (end > entry.Line && IsAside(lines[end - 1])) end--;
            for (var line = entry.Line; line <= end; line++) gone.Add(line);
            // A blank line goes too, but not where it keeps a comment from the entry behind.
            var isAfterComment = entry.Line > 1 && lines[entry.Line - 2].TrimStart().StartsWith('#');
            if (!isAfterComment && end < lines.Count && lines[end].Trim().Length == 0) gone.Add(end + 1);
        }

        var drops = below.Where(name => !IsDropped(root, name)).ToList();
        var kept = lines.Select((line, at) => (line, Number: at + 1)).Where(one => !gone.Contains(one.Number)).ToList();
        if (drops.Count == 0) return string.Concat(kept.Select(one => one.line));
        var (from, to, all) = PlaceOfDrops(root, lines, headers, drops);
        return string.Concat(kept.Where(one => one.Number < from).Select(one => one.line))
            + $"drops = {BundleText.Quote(all)}\n" + string.Concat(kept.Where(one => one.Number >= to).Select(one => one.line));
    }

    /// <summary>
    /// The catalogues that only entries name which go. If an entry that stays names no catalogue, none of them is idle.
    /// </summary>
    private static IEnumerable<(string Name, TomlTable Entry, string Kind)> IdleCatalogues(
        TomlTable root, Dictionary<string, TomlTable> entries, IReadOnlyCollection<string> own)
    {
        var stay = Named(entries.Where(pair => !own.Contains(pair.Key)));
        if (stay.Contains(null)) return [];
        var named = Named(entries.Where(pair => own.Contains(pair.Key)));
        return Tables(root, "catalogues").Select(entry => (Name: ((TomlString)entry.Entries["name"]).Value, entry, "catalogues"))
            .Where(one => named.Contains(one.Name) && !stay.Contains(one.Name));

        static HashSet<string?> Named(IEnumerable<KeyValuePair<string, TomlTable>> some) =>
            [.. some.Select(pair => BundleReader.CatalogueIn(pair.Value))];
    }

    /// <summary>The tables of an array of tables.</summary>
    internal static IEnumerable<TomlTable> Tables(TomlTable root, string key) =>
        root.Entries.GetValueOrDefault(key) is TomlArray array ? array.Items.OfType<TomlTable>() : [];

    /// <summary>The entries of a bundle by the app that they name.</summary>
    internal static Dictionary<string, TomlTable> Entries(TomlTable root) =>
        Tables(root, "apps").ToDictionary(entry => BundleReader.NameIn(entry) ?? "", StringComparer.Ordinal);

    /// <summary>The text as tables.</summary>
    /// <exception cref="ArgumentException">It is no valid bundle.</exception>
    internal static TomlTable Root(string text) =>
        TomlText.Read(text, "bundle", []) ?? throw new ArgumentException("the text must be a valid bundle", nameof(text));

    /// <summary>Replaces strings that differ, from the last to the first.</summary>
    internal static void Replace(StringBuilder text, IEnumerable<(TomlString Token, string Value)> edits)
    {
        foreach (var (token, value) in edits.Where(edit => edit.Token.Value != edit.Value)
            .OrderByDescending(edit => edit.Token.Start))
            text.Remove(token.Start, token.Length).Insert(token.Start, BundleText.Quote(value));
    }

    /// <summary>Appends blocks on lines of their own.</summary>
    internal static void Append(StringBuilder text, StringBuilder added)
    {
        if (added.Length > 0 && text.Length > 0 && text[^1] != '\n') text.Append('\n');
        text.Append(added);
    }

    /// <summary>Which lines the key <c>drops</c> takes or would take, and what it is to hold.</summary>
    private static (int From, int To, IReadOnlyList<string> All) PlaceOfDrops(
        TomlTable root, List<string> lines, List<int> headers, List<string> drops)
    {
        if (root.Entries.GetValueOrDefault("drops") is not TomlArray array)
        {
            var after = root.Entries["bundle"].Line + 1;
            return (after, after, drops);
        }

        var last = array.Items.Count == 0 ? array.Line : array.Items[^1].Line;
        while (last < lines.Count && !lines[last - 1].Contains(']', StringComparison.Ordinal)
            && !headers.Contains(last + 1)) last++;
        return (array.Line, last + 1, [.. array.Items.OfType<TomlString>().Select(item => item.Value), .. drops]);
    }

    private static bool IsDropped(TomlTable root, string name) =>
        root.Entries.GetValueOrDefault("drops") is TomlArray array
        && array.Items.OfType<TomlString>().Any(item => item.Value == name);

    private static bool IsAside(string line) =>
        line.TrimStart() is var rest && (rest.Trim().Length == 0 || rest.StartsWith('#'));

    /// <summary>The lines with their line breaks.</summary>
    private static List<string> LinesOf(string text)
    {
        var lines = new List<string>();
        for (var at = 0; at < text.Length;)
        {
            var end = text.IndexOf('\n', at);
            end = end < 0 ? text.Length : end + 1;
            lines.Add(text[at..end]);
            at = end;
        }

        return lines;
    }

    /// <summary>The lines on which a table is opened by a header in brackets.</summary>
    private static List<int> Headers(TomlTable root, List<string> lines) =>
        [.. Within(root).Where(line => lines[line - 1].TrimStart().StartsWith('[')).Distinct()];

    private static IEnumerable<int> Within(TomlValue value) => value switch
    {
        TomlTable table => table.Entries.Values.SelectMany(WithItself),
        TomlArray array => array.Items.SelectMany(WithItself),
        _ => [],
    };

    private static IEnumerable<int> WithItself(TomlValue value) =>
        value is TomlTable ? Within(value).Prepend(value.Line) : Within(value);
}
