using System.Globalization;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using Tomlyn;
using Tomlyn.Parsing;
using Tomlyn.Syntax;

namespace AmberCrate.Core.Toml;

/// <summary>Reads TOML 1.0 into tables whose values know where they stand, so that every fault can name its line.</summary>
public static class TomlText
{
    /// <summary>
    /// Reads a document. Faults of the syntax are added to <paramref name="faults"/>, and then the result is null.
    /// </summary>
    public static TomlTable? Read(string text, string file, ICollection<FormatFault> faults)
    {
        if (PlainToml.TryRead(text) is { } plain) return plain;
        return ReadAny(text, file, faults);
    }

    /// <summary>The same by the full reader, however the text is written.</summary>
    public static TomlTable? ReadAny(string text, string file, ICollection<FormatFault> faults)
    {
        DocumentSyntax document;
        try
        {
            document = SyntaxParser.Parse(text, file, validate: true);
        }
        catch (Exception fault) when (ForeignText.IsOfText(fault))
        {
            // Such as tables or arrays in one another, deeper than anybody means them, or half of a letter as \ud800.
            var words = fault is TomlException toml ? toml.Message.Split(". ")[0] : ForeignText.Words(fault);
            faults.Add(new FormatFault(file, 1, "", $"not valid TOML: {words}"));
            return null;
        }

        if (document.HasErrors)
        {
            foreach (var message in document.Diagnostics
                .Where(message => message.Kind == DiagnosticMessageKind.Error).Take(FormatFault.Most))
                faults.Add(new FormatFault(file, message.Span.Start.Line + 1, "", $"not valid TOML: {message.Message}"));
            return null;
        }

        var root = new TomlTable(1);
        Fill(root, document.KeyValues);
        foreach (var table in document.Tables) Fill(Open(root, table), table.Items);
        return root;
    }

    private static TomlTable Open(TomlTable root, TableSyntaxBase syntax)
    {
        var names = Names(syntax.Name!);
        var line = syntax.Span.Start.Line + 1;
        var parent = Descend(root, names, line);
        if (syntax is not TableArraySyntax) return Child(parent, names[^1], line);

        if (!parent.Entries.TryGetValue(names[^1], out var value))
            parent.Entries.Add(names[^1], value = new TomlArray([], line));
        var element = new TomlTable(line);
        ((TomlArray)value).Items.Add(element);
        return element;
    }

    private static void Fill(TomlTable table, IEnumerable<KeyValueSyntax> items)
    {
        foreach (var item in items)
        {
            var names = Names(item.Key!);
            var line = item.Span.Start.Line + 1;
            Descend(table, names, line).Entries[names[^1]] = Convert(item.Value!);
        }
    }

    private static TomlTable Descend(TomlTable table, List<string> names, int line)
    {
        foreach (var name in names.Take(names.Count - 1)) table = Child(table, name, line);
        return table;
    }

    private static TomlTable Child(TomlTable parent, string name, int line)
    {
        if (!parent.Entries.TryGetValue(name, out var value)) parent.Entries.Add(name, value = new TomlTable(line));
        return value is TomlArray array ? (TomlTable)array.Items[^1] : (TomlTable)value;
    }

    private static List<string> Names(KeySyntax key) =>
        [NameOf(key.Key!), .. key.DotKeys.Select(dotted => NameOf(dotted.Key!))];

    private static string NameOf(BareKeyOrStringValueSyntax part) =>
        part is StringValueSyntax quoted ? quoted.Value ?? "" : ((BareKeySyntax)part).Key!.Text!;

    private static TomlValue Convert(ValueSyntax value)
    {
        var line = value.Span.Start.Line + 1;
        return value switch
        {
            StringValueSyntax text => new TomlString(text.Value ?? "", line, text.Span.Start.Offset, text.Span.Length),
            IntegerValueSyntax number => new TomlInteger(number.Value, line),
            BooleanValueSyntax truth => new TomlBoolean(truth.Value, line),
            DateTimeValueSyntax date => ConvertDate(date, line),
            ArraySyntax array => new TomlArray([.. array.Items.Select(item => Convert(item.Value!))], line),
            InlineTableSyntax table => ConvertTable(table, line),
            _ => new TomlOther("a number with a fraction", line),
        };
    }

    private static TomlTable ConvertTable(InlineTableSyntax syntax, int line)
    {
        var table = new TomlTable(line);
        Fill(table, syntax.Items.Select(item => item.KeyValue!));
        return table;
    }

    private static TomlValue ConvertDate(DateTimeValueSyntax syntax, int line) =>
        DateOnly.TryParseExact(syntax.Token!.Text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var date)
            ? new TomlDate(date, line)
            : new TomlOther("a date with a time", line);
}
