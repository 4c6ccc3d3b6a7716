using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Pins;

/// <summary>
/// A policy that keeps an app at a version or in a range. It is not what the app follows: lifting it leaves that as it was.
/// </summary>
/// <param name="App">The app, installed or not.</param>
/// <param name="Selector">The versions that it may have.</param>
public sealed record Pin(AppId App, VersionSelector Selector)
{
    /// <summary>The most characters of a reason.</summary>
    public const int MostReason = 500;

    /// <summary>Why; null if unknown.</summary>
    public string? Reason { get; init; }

    /// <summary>The last day on which it holds; null for no end.</summary>
    public DateOnly? Until { get; init; }

    /// <summary>When it was set.</summary>
    public DateTimeOffset Since { get; init; }

    /// <summary>Whether its last day is over.</summary>
    /// <param name="today">The day.</param>
    public bool IsLapsed(DateOnly today) => Until < today;

    /// <summary>Whether it says the same, whenever it was set.</summary>
    public bool SaysTheSameAs(Pin? other) => other is not null && other with { Since = Since } == this;

    /// <summary>What it holds, why, and until when, in words.</summary>
    public string Words =>
        $"pinned to @{Selector}{(Until is { } last ? $" until {last:yyyy-MM-dd}" : "")} ({Reason ?? "no reason given"})";
}
