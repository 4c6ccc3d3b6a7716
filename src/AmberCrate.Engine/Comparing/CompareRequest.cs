namespace AmberCrate.Engine.Comparing;

/// <summary>What is to be compared.</summary>
/// <param name="Wanted">The bundle with the wanted state; null where it is a past run.</param>
public sealed record CompareRequest(string? Wanted)
{
    /// <summary>What it is compared with: another bundle, or a folder of exports; null for this machine.</summary>
    public string? With { get; init; }

    /// <summary>The number of the run whose state is wanted; null for none.</summary>
    public long? Run { get; init; }

    /// <summary>Whether the state before that run is wanted.</summary>
    public bool IsBefore { get; init; }
}
