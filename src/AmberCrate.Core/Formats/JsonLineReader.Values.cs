using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <content>Texts, numbers and arrays of them.</content>
internal ref partial struct JsonLineReader
{
    private const int LongestShown = 100;

    /// <summary>Goes to the value behind the key.</summary>
    public void NextValue() => _json.Read();

    /// <summary>Begins the array behind the key.</summary>
    public void BeginArray(string of) => Begin(JsonTokenType.StartArray, $"an array of {of}");

    /// <summary>Goes to the next item of the array; false at its end.</summary>
    public bool NextItem() => _json.Read() && _json.TokenType != JsonTokenType.EndArray;

    /// <summary>The value is a text, such as this one.</summary>
    public readonly bool IsText(ReadOnlySpan<byte> text) =>
        _json.TokenType == JsonTokenType.String && _json.ValueTextEquals(text);

    /// <summary>The value as a text.</summary>
    /// <param name="least">The fewest characters: 0 or 1.</param>
    /// <param name="most">The most characters.</param>
    /// <param name="expected">The message for another kind of value.</param>
    public readonly string Text(int least, int most, string expected = "a string")
    {
        if (_json.TokenType != JsonTokenType.String) throw Fault($"expected {expected}");
        var text = _json.GetString()!;
        if (text.Length < least) throw Fault("expected a string that is not empty, found \"\"");
        return text.Length <= most ? text : throw Fault($"expected at most {most} characters, found {text.Length}");
    }

    /// <summary>The value as a whole number; null where it is none within these bounds.</summary>
    public readonly long? Number(long least, long most) =>
        _json.TokenType == JsonTokenType.Number && _json.TryGetInt64(out var number) && number >= least && number <= most
            ? number
            : null;

    /// <summary>The value as true or false.</summary>
    public readonly bool Truth() => _json.TokenType is JsonTokenType.True or JsonTokenType.False
        ? _json.GetBoolean()
        : throw Fault("expected true or false");

    /// <summary>A faulty text for a message, cut where it is long.</summary>
    public static string Shown(string text) => text.Length <= LongestShown ? $"\"{text}\"" : $"\"{text[..LongestShown]}…\"";
}
