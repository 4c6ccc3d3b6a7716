using System.Globalization;

namespace AmberCrate.Core.Schedules;

/// <summary>
/// Says a calendar expression of systemd.time(7) as the first five fields of crontab(5), where that can be said: a time of a
/// day, with days of the week or of the month. Both at once cannot: cron runs on days that are either, systemd on those that are
/// both.
/// </summary>
public static class CronLine
{
    private static readonly string[] Days = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"];

    private static readonly Dictionary<string, string> Words = new(StringComparer.OrdinalIgnoreCase)
    {
        ["hourly"] = "0 * * * *", ["daily"] = "0 0 * * *", ["weekly"] = "0 0 * * 1", ["monthly"] = "0 0 1 * *",
        ["quarterly"] = "0 0 1 1,4,7,10 *", ["yearly"] = "0 0 1 1 *", ["annually"] = "0 0 1 1 *",
        ["semiannually"] = "0 0 1 1,7 *",
    };

    /// <summary>The fields; null where cron cannot say it.</summary>
    /// <param name="expression">The expression.</param>
    public static string? Translate(string expression)
    {
        if (Words.TryGetValue(expression.Trim(), out var known)) return known;
        var (week, month, day) = ("*", "*", "*");
        string? time = null;
        foreach (var part in expression.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            if (part.Contains(':', StringComparison.Ordinal) && time is null) time = part;
            else if (char.IsAsciiLetter(part[0]) && DaysOf(part) is { } days) week = days;
            else if (part.Split('-') is ["*", var its, var of] && Field(its, 1, 12) is { } inMonth
                && Field(of, 1, 31) is { } onDay)
                (month, day) = (inMonth, onDay);
            else return null;
        }

        if (week != "*" && day != "*") return null;
        var clock = (time ?? "00:00").Split(':');
        return clock.Length is 2 or 3 && (clock.Length == 2 || clock[2] is "00" or "0")
            && Field(clock[0], 0, 23) is { } hour && Field(clock[1], 0, 59) is { } minute
            ? $"{minute} {hour} {day} {month} {week}"
            : null;
    }

    private static string? DaysOf(string text)
    {
        List<string> fields = [];
        foreach (var part in text.Split(','))
        {
            var ends = part.Split("..");
            var numbers = ends.Select(Number).ToList();
            if (numbers.Contains(null) || numbers.Count > 2) return null;
            if (numbers.Count == 1) fields.Add(Text(numbers[0]!.Value));
            else
            {
                // Cron's week begins with Sunday, and its ranges may not go over its end.
                var (from, to) = (numbers[0]!.Value, numbers[1]!.Value == 0 ? 7 : numbers[1]!.Value);
                if (from > to) return null;
                fields.Add($"{Text(from)}-{Text(to)}");
            }
        }

        return string.Join(',', fields);

        static int? Number(string day) => day.Length < 3 ? null
            : Array.FindIndex(Days, known =>
                day.StartsWith(known, StringComparison.OrdinalIgnoreCase)) is >= 0 and var at ? at : null;
    }

    private static string? Field(string text, int least, int most)
    {
        if (text == "*") return text;
        List<string> fields = [];
        foreach (var part in text.Split(','))
        {
            var numbers = part.Split("..").Select(one =>
                int.TryParse(one, NumberStyles.None, CultureInfo.InvariantCulture, out var number) && number >= least
                    && number <= most ? number : (int?)null).ToList();
            if (numbers.Contains(null) || numbers.Count > 2) return null;
            fields.Add(string.Join('-', numbers.Select(number => Text(number!.Value))));
        }

        return string.Join(',', fields);
    }

    private static string Text(int number) => number.ToString(CultureInfo.InvariantCulture);
}
