namespace AmberCrate.Core.Plans;

/// <summary>How the rights stand that a plan takes.</summary>
public enum RightsState
{
    /// <summary>They are there.</summary>
    Own,

    /// <summary>The run will be given them, once the user has shown that they may.</summary>
    Raised,

    /// <summary>They are missing, and there is no way to them.</summary>
    Missing,
}
