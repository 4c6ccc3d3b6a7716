namespace AmberCrate.Core.Comparing;

/// <summary>One side of a comparison.</summary>
/// <param name="Name">What it is called: a file, a machine.</param>
/// <param name="Apps">Its apps.</param>
public sealed record ComparedSide(string Name, IReadOnlyList<ComparedApp> Apps)
{
    /// <summary>Why it cannot be compared; null where it can.</summary>
    public string? Fault { get; init; }

    /// <summary>The day on which it was written down; null where that is now, or not known.</summary>
    public DateOnly? Date { get; init; }
}
