namespace AmberCrate.Core.Trials;

/// <summary>What was seen of a program that was started.</summary>
/// <param name="Title">The title of its window, may be empty; null where it opened none.</param>
/// <param name="ExitCode">How it ended; null where it was still running.</param>
/// <param name="Seconds">For how long it was watched.</param>
/// <param name="Lines">The last lines that it wrote.</param>
public sealed record TrialSight(string? Title, int? ExitCode, int Seconds, IReadOnlyList<string> Lines);
