using AmberCrate.Core.Plans;

namespace AmberCrate.Engine.Runs;

/// <summary>
/// A plan that may be carried out: the user has agreed to it, now or beforehand, and nothing is in its way. The runner takes
/// nothing else.
/// </summary>
public sealed class ConfirmedPlan
{
    /// <summary>Made where the user is asked, and in tests.</summary>
    internal ConfirmedPlan(SurveyedPlan plan) => Plan = plan;

    /// <summary>The plan.</summary>
    public SurveyedPlan Plan { get; }
}
