namespace AmberCrate.Cli.Tests.Findings;

/// <summary>How a machine comes to be in a state that check finds, and how it gets out of it.</summary>
/// <param name="Make">Makes it so.</param>
internal sealed record FindingState(Action<Sandbox> Make)
{
    /// <summary>The options with which check sees it.</summary>
    public string[] Check { get; init; } = [];

    /// <summary>What the person does before the command that is printed; null for nothing.</summary>
    public string? ByHand { get; init; }

    /// <summary>Whether the remedy sets a variable of the shell.</summary>
    public bool Exported { get; init; }

    /// <summary>Whether the command that is printed is only a beginning, and the state stays.</summary>
    public bool Stays { get; init; }
}
