using AmberCrate.Core.Values;

namespace AmberCrate.Core.Trials;

/// <summary>The words for what came of starting a program.</summary>
public static class TrialWords
{
    /// <summary>The words.</summary>
    public static readonly WordTable<TrialOutcome> Outcomes = new(
        (TrialOutcome.Window, "window"), (TrialOutcome.Ended, "ended"), (TrialOutcome.NoWindow, "no-window"),
        (TrialOutcome.Failed, "failed"), (TrialOutcome.NotTried, "not-tried"));
}
