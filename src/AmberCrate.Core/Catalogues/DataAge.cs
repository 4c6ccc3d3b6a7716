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

    /// <summary>Whether something is longer ago than a limit. What cannot be true is taken for long ago: otherwise data that came while the clock was wrong would stay new for as long.</summary>
    /// <param name="since">When it was.</param>
    /// <param name="limit">The limit.</param>
    /// <param name="now">The time now.</param>
    public static bool IsOver(DateTimeOffset since, TimeSpan limit, DateTimeOffset now) => now - since > limit || IsAhead(since, now);
}
