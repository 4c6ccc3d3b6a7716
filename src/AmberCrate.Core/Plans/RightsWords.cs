using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>The words for <see cref="RightsState"/>, in JSON.</summary>
public static class RightsWords
{
    /// <summary>A word for each state.</summary>
    public static WordTable<RightsState> States { get; } = new(
        (RightsState.Own, "own"), (RightsState.Raised, "raised"), (RightsState.Missing, "missing"));
}
