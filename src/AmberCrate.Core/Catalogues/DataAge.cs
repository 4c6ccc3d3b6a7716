namespace AmberCrate.Core.Catalogues;

/// <summary>Tells old data from new by a clock that may have been wrong, now or when the data came.</summary>
public static class DataAge
{
    /// <summary>How far ahead a time may be: clocks are set right in small steps.</summary>
    public static readonly TimeSpan Slack = TimeSpan.FromMinutes(5);

    /// <summary>Whether a time cannot be true: it is still to come.</summary>
    /// <param name="since">The time.</param>
    /// <param name="now">The time now.</param>
    public static bool IsAhead(DateTimeOffset since, DateTimeOffset now) => since - now > Slack;

    /// <summary>
    /// Whether something is longer ago than a limit. What cannot be true counts as long ago: otherwise data that came while
    /// the clock was wrong would stay new for as long.
    /// </summary>
    /// <param name="since">When it was.</param>
    /// <param name="limit">The limit.</param>
    /// <param name="now">The time now.</param>
    public static bool IsOver(DateTimeOffset since, TimeSpan limit, DateTimeOffset now) =>
        now - since > limit || IsAhead(since, now);

    /// <summary>How long ago something was, in words.</summary>
    /// <param name="since">When it was.</param>
    /// <param name="now">The time now.</param>
    public static string Ago(DateTimeOffset since, DateTimeOffset now) =>
        IsAhead(since, now) ? "in the future (wrong clock?)" : Ago(now - since);

    private static string Ago(TimeSpan age) => age.TotalSeconds switch
    {
        < 60 => "just now",
        < 3600 => $"{Counted((int)age.TotalMinutes, "minute")} ago",
        < 86400 => $"{Counted((int)age.TotalHours, "hour")} ago",
        _ => $"{Counted((int)age.TotalDays, "day")} ago",
    };

    private static string Counted(int number, string unit) => $"{number} {unit}{(number == 1 ? "" : "s")}";
}
