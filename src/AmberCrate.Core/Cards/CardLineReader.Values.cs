using System.Text;
using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <content>Lists, texts, numbers and dates, and what is said of a faulty one.</content>
internal ref partial struct CardLineReader
{
    private delegate bool TextParser<T>(string text, out T? value);

    private delegate T ItemReader<out T>(ref CardLineReader reader);

    /// <summary>Reads an array of objects.</summary>
    private List<T> Each<T>(ItemReader<T> read, string list)
    {
        _json.Read();
        if (_json.TokenType != JsonTokenType.StartArray) throw Fault("expected an array");
        var isOuter = _outer.List is null;
        var items = new List<T>();
        while (_json.Read() && _json.TokenType != JsonTokenType.EndArray)
        {
            if (isOuter) _outer = (list, items.Count + 1);
            else _inner = (list, items.Count + 1);
            items.Add(read(ref this));
        }

        if (isOuter) _outer = default;
        else _inner = default;
        return items;
    }

    /// <summary>A list of objects, each read when it is asked for.</summary>
    private readonly LaterList<T> Later<T>(ItemReader<T> read, (int At, int Length)[] parts)
        where T : class
    {
        var (line, damaged) = (_kept, _damaged!);
        return new LaterList<T>(parts.Length, at =>
        {
            try
            {
                var reader = new CardLineReader(line.Slice(parts[at].At, parts[at].Length), damaged);
                reader._json.Read();
                return read(ref reader);
            }
            catch (MalformedException fault)
            {
                throw damaged(fault);
            }
        });
    }

    /// <summary>Makes sure that an object begins: where the reader is, or behind the key on which it is.</summary>
    private void BeginObject()
    {
        if (_json.TokenType == JsonTokenType.PropertyName) _json.Read();
        if (_json.TokenType != JsonTokenType.StartObject) throw Fault("expected an object");
    }

    private bool NextKey()
    {
        if (!_json.Read() || _json.TokenType != JsonTokenType.PropertyName) return false;
        _keyAt = _begin + (int)_json.TokenStartIndex + 1;
        return true;
    }

    private readonly bool Is(ReadOnlySpan<byte> key) => _json.ValueTextEquals(key);

    private string Text(int most, int least = 0)
    {
        _json.Read();
        return TextHere(most, least);
    }

    private readonly string TextHere(int most, int least)
    {
        if (_json.TokenType != JsonTokenType.String) throw Fault("expected a string");
        var text = _json.GetString()!;
        if (text.Length < least) throw Fault("expected a string that is not empty, found \"\"");
        return text.Length <= most ? text : throw Fault($"expected at most {most} characters, found {text.Length}");
    }

    private List<string> Texts(Func<string, bool> isValid, string expected, int maxLength = CardLimits.Word)
    {
        _json.Read();
        if (_json.TokenType != JsonTokenType.StartArray) throw Fault("expected an array of strings");
        var texts = new List<string>();
        while (_json.Read() && _json.TokenType != JsonTokenType.EndArray)
        {
            if (_json.TokenType != JsonTokenType.String) throw Fault("expected an array of strings");
            var text = _json.GetString()!;
            texts.Add(text.Length <= maxLength
                ? Checked(text, isValid, expected)
                : throw Fault($"expected at most {maxLength} characters, found {text.Length}"));
        }

        return texts;
    }

    private Platform ReadPlatform()
    {
        _json.Read();
        if (_json.TokenType == JsonTokenType.String)
        {
            // Nearly all artifacts are for one of these.
            if (_json.ValueTextEquals("x86_64-linux-gnu"u8)) return UsualPlatforms.Intel;
            if (_json.ValueTextEquals("aarch64-linux-gnu"u8)) return UsualPlatforms.Arm;
            if (_json.ValueTextEquals("any-linux-any"u8)) return UsualPlatforms.Any;
        }

        var text = TextHere(CardLimits.Text, 1);
        return Platform.TryParse(text, out var platform)
            ? platform
            : throw Fault($"expected {Platform.Expected}, found {Shown(text)}");
    }

    /// <summary>Platforms that need not be read again and again.</summary>
    private static class UsualPlatforms
    {
        public static readonly Platform Intel = Platform.Parse("x86_64-linux-gnu"), Arm = Platform.Parse("aarch64-linux-gnu"),
            Any = Platform.Parse("any-linux-any");
    }

    private T Parsed<T>(TextParser<T> parse, string expected)
        where T : class
    {
        var text = Text(CardLimits.Description);
        return parse(text, out var value) ? value! : throw Fault($"expected {expected}, found {Shown(text)}");
    }

    /// <summary>A text that follows a rule. A line that was checked before need not be checked again.</summary>
    private readonly string Checked(string text, Func<string, bool> isValid, string expected) =>
        _damaged is not null || isValid(text) ? text : throw Fault($"expected {expected}, found {Shown(text)}");

    private List<RelatedApp> Related() =>
        Texts(text => RelatedApp.TryParse(text, out _), RelatedApp.Expected).ConvertAll(RelatedApp.Parse);

    private List<ArtifactLocation> Mirrors()
    {
        var mirrors =
            Texts(text => ArtifactLocation.TryParse(text, out _), ArtifactLocation.Expected, CardLimits.Text).ConvertAll(
            ArtifactLocation.Parse);
        return mirrors.Count <= CardLimits.Mirrors
            ? mirrors
            : throw Fault($"expected at most {CardLimits.Mirrors} mirrors, found {mirrors.Count}");
    }

    private string Arguments() =>
        Checked(Text(CardLimits.Text), text => !text.Any(char.IsControl), "one line without control characters");

    private bool Truth()
    {
        _json.Read();
        return _json.TokenType is JsonTokenType.True or JsonTokenType.False
            ? _json.GetBoolean()
            : throw Fault("expected true or false");
    }

    private List<T> Choices<T>(WordTable<T> words)
        where T : struct, Enum
    {
        _json.Read();
        if (_json.TokenType != JsonTokenType.StartArray) throw Fault("expected an array of strings");
        var chosen = new List<T>();
        while (_json.Read() && _json.TokenType != JsonTokenType.EndArray) chosen.Add(ChoiceHere(words));
        return chosen;
    }

    private T Choice<T>(WordTable<T> words)
        where T : struct, Enum
    {
        _json.Read();
        return ChoiceHere(words);
    }

    private readonly T ChoiceHere<T>(WordTable<T> words)
        where T : struct, Enum
    {
        if (_json.TokenType == JsonTokenType.String)
        {
            for (var at = 0; at < words.Pairs.Count; at++)
            {
                if (_json.ValueTextEquals(words.Pairs[at].Word)) return words.Pairs[at].Value;
            }
        }

        throw Fault($"expected one of {string.Join(", ", words.Pairs.Select(pair => pair.Word))}");
    }

    private long Number(long least, long most)
    {
        _json.Read();
        return _json.TokenType == JsonTokenType.Number && _json.TryGetInt64(out var number) && number >= least && number <= most
            ? number
            : throw Fault($"expected a whole number from {least} to {most}");
    }

    /// <summary>A date. By hand, since a large catalogue has a million of them.</summary>
    private DateOnly Date()
    {
        var text = Text(CardLimits.Text).AsSpan();
        return text.Length == 10 && text[4] == '-' && text[7] == '-'
            && Digits(text[..4]) is >= 1 and var year && Digits(text[5..7]) is >= 1 and <= 12
                and var month && Digits(text[8..]) is >= 1 and var day && day <= DateTime.DaysInMonth(year, month)
            ? new DateOnly(year, month, day)
            : throw Fault("expected a date such as 2026-09-01");
    }

    /// <summary>A number of a few digits; -1 where the text is none.</summary>
    private static int Digits(ReadOnlySpan<char> text)
    {
        var number = 0;
        foreach (var digit in text)
        {
            if (!char.IsAsciiDigit(digit)) return -1;
            number = (number * 10) + (digit - '0');
        }

        return number;
    }

    private static string Shown(string text) =>
        text.Length <= CardLimits.Word ? $"\"{text}\"" : $"\"{text[..CardLimits.Word]}…\"";

    private readonly string Path() => (_outer.List is null ? "" : $"{_outer.List}[{_outer.Number}].")
        + (_inner.List is null ? "" : $"{_inner.List}[{_inner.Number}].");

    private readonly MalformedException Unknown() => new($"{Path()}{_json.GetString()}: unknown key");

    private readonly MalformedException Missing(string key) => new($"{Path()}{key}: the key is missing");

    /// <summary>A fault in the value of the key that was read last.</summary>
    private readonly MalformedException Fault(string what)
    {
        var key = _keyAt == 0 ? "" : Encoding.UTF8.GetString(_line[_keyAt..][.._line[_keyAt..].IndexOf((byte)'"')]);
        return new MalformedException($"{Path()}{key}{(key.Length > 0 ? ": " : "")}{what}");
    }

    private List<int> Numbers(int least, int most)
    {
        _json.Read();
        if (_json.TokenType != JsonTokenType.StartArray) throw Fault("expected an array of whole numbers");
        var numbers = new List<int>();
        while (_json.Read() && _json.TokenType != JsonTokenType.EndArray)
            numbers.Add(_json.TokenType == JsonTokenType.Number && _json.TryGetInt32(out var number) && number >= least
                && number <= most ? number : throw Fault($"expected whole numbers from {least} to {most}"));
        return numbers;
    }
}
