using System.Text.Json;

namespace AmberCrate.Core.Formats;

/// <summary>A date without a time: a date in TOML, a string such as <c>2026-09-01</c> in JSON.</summary>
internal sealed class DateFormat : ValueFormat<DateOnly>
{
    private const int Longest = 1000;

    /// <inheritdoc/>
    public override string Type => "date";

    /// <inheritdoc/>
    public override object? Read(TableReader table, string key, bool isRequired) => table.Date(key, isRequired);

    /// <inheritdoc/>
    public override object Read(ref JsonLineReader line, bool isRequired)
    {
        // By hand, since a large catalogue has a million of them.
        line.NextValue();
        var text = line.Text(0, Longest).AsSpan();
        return text.Length == 10 && text[4] == '-' && text[7] == '-'
            && Digits(text[..4]) is >= 1 and var year && Digits(text[5..7]) is >= 1 and <= 12 and var month
            && Digits(text[8..]) is >= 1 and var day && day <= DateTime.DaysInMonth(year, month)
            ? new DateOnly(year, month, day)
            : throw line.Fault("expected a date such as 2026-09-01");
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter json, DateOnly value) => json.WriteStringValue(value.ToString("yyyy-MM-dd"));

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
}
