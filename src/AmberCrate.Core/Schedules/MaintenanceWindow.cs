using System.Diagnostics.CodeAnalysis;
using System.Globalization;

namespace AmberCrate.Core.Schedules;

/// <summary>The time of a day when a machine may be changed, such as <c>22:00-05:00</c>; it may go over midnight.</summary>
/// <param name="From">When it begins.</param>
/// <param name="To">When it ends.</param>
public sealed record MaintenanceWindow(TimeOnly From, TimeOnly To)
{
    /// <summary>What a window must look like, for messages.</summary>
    public const string Expected = "two times of a day such as 22:00-05:00";

    private const string Layout = "HH:mm";

    /// <summary>Reads a window.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out MaintenanceWindow? window)
    {
        window = text.Split('-') is [var from, var to] && Time(from) is { } begin && Time(to) is { } end && begin != end
            ? new MaintenanceWindow(begin, end)
            : null;
        return window is not null;
    }

    /// <summary>Whether a time is in it.</summary>
    public bool Holds(TimeOnly time) => time.IsBetween(From, To);

    /// <summary>How long it lasts from a time in it on.</summary>
    public TimeSpan LeftAt(TimeOnly time) => To - time;

    /// <inheritdoc/>
    public override string ToString() =>
        $"{From.ToString(Layout, CultureInfo.InvariantCulture)}-{To.ToString(Layout, CultureInfo.InvariantCulture)}";

    private static TimeOnly? Time(string text) =>
        TimeOnly.TryParseExact(text.Trim(), Layout, CultureInfo.InvariantCulture, DateTimeStyles.None, out var time) ? time
            : null;
}
