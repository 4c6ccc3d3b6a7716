namespace AmberCrate.Engine.Inspecting;

/// <summary>How bad a finding is.</summary>
public enum FindingWeight
{
    /// <summary>Something does not work.</summary>
    Broken,

    /// <summary>Someone should look at it.</summary>
    Attention,

    /// <summary>Good to know.</summary>
    Hint,
}
