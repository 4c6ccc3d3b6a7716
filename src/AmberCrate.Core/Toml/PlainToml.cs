using System.Globalization;

namespace AmberCrate.Core.Toml;

/// <summary>
/// Reads TOML that is written plainly, as programs and most people do: one key a line, strings in double quotes without escapes,
/// whole numbers, dates, truths, arrays and inline tables on one line. It is about ten times as quick as the full reader, which
/// gets all other texts, and all texts with anything unusual or wrong in them.
/// </summary>
public sealed class PlainToml
{
    /// <summary>How many arrays and tables may stand in one another on a line.</summary>
    private const int MostDeep = 10;

    private readonly string _text;
    private readonly HashSet<TomlTable> _closed = new(ReferenceEqualityComparer.Instance);
    private int _at, _line = 1, _depth;

    private PlainToml(string text) => _text = text;

    /// <summary>Reads a text; null where it is not written plainly, which says nothing about whether it is valid.</summary>
    public static TomlTable? TryRead(string text)
    {
        try
        {
            return new PlainToml(text).Read();
        }
        catch (NotPlainException)
        {
            return null;
        }
    }

    private TomlTable Read()
    {
        var root = new TomlTable(1);
        for (var table = root; ; _line++)
        {
            Blanks();
            if (_at < _text.Length && _text[_at] == '[') table = Header(root);
            else if (_at < _text.Length && _text[_at] is not ('#' or '\n')) Pair(table);
            if (!EndOfLine()) return root;
        }
    }

    /// <summary>Passes over what ends a line; false at the end of the text.</summary>
    private bool EndOfLine()
    {
        Blanks();
        if (_at < _text.Length && _text[_at] == '#')
        {
            var end = _text.IndexOf('\n', _at);
            foreach (var c in _text.AsSpan(_at, (end < 0 ? _text.Length : end) - _at)) RequirePlain(c);
            _at = end < 0 ? _text.Length : end;
        }

        if (_at == _text.Length) return false;
        Expect('\n');
        return true;
    }

    private TomlTable Header(TomlTable root)
    {
        Expect('[');
        var isElement = TryTake('[');
        var parent = root;
        var name = Bare();
        while (TryTake('.'))
        {
            parent = Inner(parent, name);
            name = Bare();
        }

        Expect(']');
        if (isElement) Expect(']');
        var table = new TomlTable(_line);
        if (!isElement)
        {
            if (!parent.Entries.TryAdd(name, table)) throw new NotPlainException();
            return table;
        }

        if (!parent.Entries.TryGetValue(name, out var there)) parent.Entries.Add(name, there = new TomlArray([], _line));
        if (there is not TomlArray { Items: var items } || (items.Count > 0 && (items[^1] is not TomlTable last
            || _closed.Contains(last)))) throw new NotPlainException();
        items.Add(table);
        return table;
    }

    /// <summary>The table that the first part of a dotted header leads to.</summary>
    private TomlTable Inner(TomlTable parent, string name) => parent.Entries.GetValueOrDefault(name) switch
    {
        TomlArray { Items: [.., TomlTable last] } when !_closed.Contains(last) => last,
        TomlTable table when !_closed.Contains(table) => table,
        _ => throw new NotPlainException(),
    };

    private void Pair(TomlTable table)
    {
        var name = Bare();
        Blanks();
        Expect('=');
        Blanks();
        if (!table.Entries.TryAdd(name, Value())) throw new NotPlainException();
    }

    private TomlValue Value() => _at == _text.Length ? throw new NotPlainException() : _text[_at] switch
    {
        '"' => Text(),
        '[' => Array(),
        '{' => Inline(),
        _ => Word(),
    };

    private TomlString Text()
    {
        var start = _at;
        Expect('"');
        for (var from = _at; _at < _text.Length; _at++)
        {
            var c = _text[_at];
            if (c == '"')
            {
                var value = _text[from.._at];
                _at++;

                // Two quotes at once may begin a text of several lines.
                if (value.Length == 0 && _at < _text.Length && _text[_at] == '"') throw new NotPlainException();
                return new TomlString(value, _line, start, _at - start);
            }

            if (c == '\\') break;
            RequirePlain(c);
        }

        throw new NotPlainException();
    }

    private TomlArray Array()
    {
        if (++_depth > MostDeep) throw new NotPlainException();
        Expect('[');
        var items = new List<TomlValue>();
        for (Blanks(); !TryTake(']'); Blanks())
        {
            if (items.Count > 0)
            {
                Expect(',');
                Blanks();
                if (TryTake(']')) break;
            }

            items.Add(Value());
        }

        _depth--;
        return new TomlArray(items, _line);
    }

    private TomlTable Inline()
    {
        if (++_depth > MostDeep) throw new NotPlainException();
        Expect('{');
        var table = new TomlTable(_line);
        _closed.Add(table);
        for (Blanks(); !TryTake('}'); Blanks())
        {
            if (table.Entries.Count > 0)
            {
                Expect(',');
                Blanks();
            }

            Pair(table);
        }

        _depth--;
        return table;
    }

    private TomlValue Word()
    {
        var from = _at;
        while (_at < _text.Length && (char.IsAsciiLetterOrDigit(_text[_at]) || _text[_at] == '-')) _at++;
        var word = _text.AsSpan(from, _at - from);
        if (word is "true") return new TomlBoolean(Value: true, _line);
        if (word is "false") return new TomlBoolean(Value: false, _line);
        if (word.Length is > 0 and <= 15 && !word.ContainsAnyExceptInRange('0', '9') && (word[0] != '0' || word.Length == 1))
            return new TomlInteger(long.Parse(word, CultureInfo.InvariantCulture), _line);

        // A blank and a time may follow a date.
        var isAlone = _at == _text.Length || _text[_at] is '\n' or ',' or '}' or ']'
            || (_text[_at] == ' ' && (_at + 1 == _text.Length || !char.IsAsciiDigit(_text[_at + 1])));
        if (isAlone
            && DateOnly.TryParseExact(word, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var date))
            return new TomlDate(date, _line);
        throw new NotPlainException();
    }

    private string Bare()
    {
        var from = _at;
        while (_at < _text.Length && (char.IsAsciiLetterOrDigit(_text[_at]) || _text[_at] is '_' or '-')) _at++;
        return _at > from ? _text[from.._at] : throw new NotPlainException();
    }

    private void Blanks()
    {
        while (_at < _text.Length && (_text[_at] is ' ' or '\t')) _at++;
    }

    private void Expect(char wanted)
    {
        if (!TryTake(wanted)) throw new NotPlainException();
    }

    private bool TryTake(char wanted)
    {
        if (_at == _text.Length || _text[_at] != wanted) return false;
        _at++;
        return true;
    }

    private static void RequirePlain(char c)
    {
        if ((char.IsControl(c) && c != '\t') || char.IsSurrogate(c) || c == '\uFEFF') throw new NotPlainException();
    }

    /// <summary>The text is not written plainly.</summary>
    private sealed class NotPlainException : Exception;
}
