using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>The words for <see cref="PlanAction"/>, in records and JSON.</summary>
public static class ActionWords
{
    /// <summary>A word for each action.</summary>
    public static WordTable<PlanAction> Actions { get; } = new(
        (PlanAction.Install, "install"), (PlanAction.Upgrade, "upgrade"), (PlanAction.Downgrade, "downgrade"),
        (PlanAction.Replace, "replace"), (PlanAction.Repair, "repair"),
        (PlanAction.Remember, "remember"),
        (PlanAction.Keep, "keep"), (PlanAction.Remove, "uninstall"),
        (PlanAction.Cannot, "cannot"));
}
