namespace AmberCrate.Core.Trials;

/// <summary>What came of starting a program once.</summary>
public enum TrialOutcome
{
    /// <summary>It opened a window.</summary>
    Window,

    /// <summary>It ended by itself, without a sign of a fault.</summary>
    Ended,

    /// <summary>It was still running at the end of its time, without a window.</summary>
    NoWindow,

    /// <summary>It does not start: it says that something is missing, or was ended by a signal.</summary>
    Failed,

    /// <summary>It was not started.</summary>
    NotTried,
}
