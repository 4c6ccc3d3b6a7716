using System.Buffers;
using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <content>
/// Passing over objects that are read later or never. The line was read as a whole before, so only quotes and brackets are looked
/// for, which takes a fraction of the time of reading; what is damaged since is noticed where an object is read, or where none
/// ends.
/// </content>
internal ref partial struct JsonLineReader
{
    private static readonly SearchValues<byte> Marks = SearchValues.Create("\"{}[]"u8);

    /// <summary>Passes over the array of objects behind a key.</summary>
    /// <returns>Where each of them is in the line.</returns>
    private (int At, int Length)[] Parts()
    {
        _json.Read();
        if (_json.TokenType != JsonTokenType.StartArray) throw Fault("expected an array");
        var parts = new List<(int At, int Length)>();
        var at = Next(_begin + (int)_json.BytesConsumed);
        while (at < _line.Length && _line[at] != ']')
        {
            if (parts.Count > 0) at = _line[at] == ',' ? Next(at + 1) : throw Fault("expected an array of objects");
            var end = EndOfObject(at);
            parts.Add((at, end - at));
            at = Next(end);
        }

        GoOn(at);
        return [.. parts];
    }

    /// <summary>Passes over the object behind a key.</summary>
    private (int At, int Length) Part()
    {
        _json.Read();
        var start = _begin + (int)_json.TokenStartIndex;
        var end = EndOfObject(start);
        GoOn(end - 1);
        return (start, end - start);
    }

    /// <summary>Goes on at the bracket that ends what has just begun: for the reader there was nothing in it.</summary>
    private void GoOn(int at)
    {
        if (at >= _line.Length) throw Fault("expected an end");
        _json = new Utf8JsonReader(_line[at..], isFinalBlock: true, _json.CurrentState);
        _begin = at;
        _json.Read();
    }

    /// <summary>The first place from here on that is not a space.</summary>
    private readonly int Next(int at)
    {
        while (at < _line.Length && (_line[at] is (byte)' ' or (byte)'\t' or (byte)'\r' or (byte)'\n')) at++;
        return at;
    }

    /// <summary>The place behind the object that begins here.</summary>
    private readonly int EndOfObject(int at)
    {
        if (at >= _line.Length || _line[at] != '{') throw Fault("expected an object");
        var depth = 0;
        while (_line[at..].IndexOfAny(Marks) is >= 0 and var step)
        {
            at += step;
            if (_line[at] == '"')
            {
                at = EndOfString(at);
                continue;
            }

            depth += _line[at++] is (byte)'{' or (byte)'[' ? 1 : -1;
            if (depth == 0) return at;
        }

        throw Fault("expected the end of an object");
    }

    /// <summary>The place behind the string that begins here.</summary>
    private readonly int EndOfString(int at)
    {
        for (at++; _line[at..].IndexOfAny((byte)'"', (byte)'\\') is >= 0 and var step; at += 2)
        {
            at += step;
            if (_line[at] == '"') return at + 1;
            if (at + 2 > _line.Length) break;
        }

        throw Fault("expected the end of a string");
    }
}
