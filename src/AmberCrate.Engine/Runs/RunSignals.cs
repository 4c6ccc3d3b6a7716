namespace AmberCrate.Engine.Runs;

/// <summary>How a user stops a run.</summary>
/// <param name="Soon">Once the current app is finished: nothing more is fetched or begun.</param>
/// <param name="Now">At once: the current app is put back as it was.</param>
public readonly record struct RunSignals(CancellationToken Soon, CancellationToken Now);
