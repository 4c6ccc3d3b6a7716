namespace AmberCrate.Cli.Tests.Findings;

/// <summary>How a machine gets into a state that check finds, and out of it again.</summary>
/// <param name="Make">Makes it so.</param>
internal sealed record FindingState(Action<Sandbox> Make)
{
    /// <summary>The options that let check see it.</summary>
    public string[] Check { get; init; } = [];

    /// <summary>What the user does before the printed command; null for nothing.</summary>
    public string? ByHand { get; init; }

    /// <summary>Whether the remedy sets a variable of the shell.</summary>
    public bool Exported { get; init; }

    /// <summary>Whether the command that is printed is only a beginning, and the state stays.</summary>
    public bool Stays { get; init; }
}
