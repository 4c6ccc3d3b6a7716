namespace AmberCrate.Engine.Runs;

/// <summary>What holds for every change of a run.</summary>
/// <param name="Tell">Is told what happens.</param>
/// <param name="Log">The log of the run.</param>
/// <param name="Consent">What the person has agreed to.</param>
/// <param name="Cancel">Stops at once: the current app is put back as it was.</param>
internal sealed record ChangeContext(Action<RunEvent> Tell, RunLog Log, RunConsent Consent, CancellationToken Cancel);
