namespace AmberCrate.Engine.Runs;

/// <summary>What a user has agreed to that is refused otherwise.</summary>
public sealed record RunConsent
{
    /// <summary>Nothing.</summary>
    public static RunConsent None { get; } = new();

    /// <summary>Whether apps are changed too that are open.</summary>
    public bool EvenInUse { get; init; }

    /// <summary>How long it is waited for apps to be closed.</summary>
    public TimeSpan WaitClosed { get; init; }

    /// <summary>Whether programs of vendors run where they cannot be confined.</summary>
    public bool Unconfined { get; init; }

    /// <summary>The names of commands that may comes before another command of that name on PATH.</summary>
    public IReadOnlyList<string> Shadowing { get; init; } = [];
}
