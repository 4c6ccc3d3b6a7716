namespace AmberCrate.Core.Plans;

/// <summary>Which rights a plan takes, beside those of the process that made it.</summary>
/// <param name="State">Its state.</param>
/// <param name="By">By what they are raised, or why they cannot be; empty where that is not the question.</param>
public sealed record RightsNeed(RightsState State, string By)
{
    /// <summary>None beside those that are there.</summary>
    public static RightsNeed Own { get; } = new(RightsState.Own, "");
}
