namespace AmberCrate.Engine.Runs;

/// <summary>What holds for every change of a run.</summary>
/// <param name="Tell">Receives the events.</param>
/// <param name="Log">The log of the run.</param>
/// <param name="Consent">What the user has agreed to.</param>
/// <param name="Cancel">Stops at once: the current app is put back as it was.</param>
internal sealed record ChangeContext(Action<RunEvent> Tell, RunLog Log, RunConsent Consent, CancellationToken Cancel)
{
    /// <summary>Until when it is waited for an app to be closed; the past for not at all.</summary>
    public DateTimeOffset WaitsUntil { get; init; }

    /// <summary>Stops waiting.</summary>
    public CancellationToken Soon { get; init; }
}
