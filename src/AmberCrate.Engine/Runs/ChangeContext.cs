namespace AmberCrate.Engine.Runs;

/// <summary>What holds for every change of a run.</summary>
/// <param name="Tell">Is told what happens.</param>
/// <param name="Log">The log of the run.</param>
/// <param name="EvenInUse">Whether apps are changed too that a person has open.</param>
/// <param name="Cancel">Stops at once: the current app is put back as it was.</param>
internal sealed record ChangeContext(Action<RunEvent> Tell, RunLog Log, bool EvenInUse, CancellationToken Cancel);
