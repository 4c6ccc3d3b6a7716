using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>How much a release matters to those who have an older one; AppStream's word and values.</summary>
public enum Urgency
{
    /// <summary>It can wait.</summary>
    Low,

    /// <summary>As usual.</summary>
    Medium,

    /// <summary>It should not wait.</summary>
    High,

    /// <summary>It closes a hole through which the machine can be attacked.</summary>
    Critical,
}

/// <content>The words for <see cref="Urgency"/>.</content>
public static partial class CardWords
{
    /// <summary>How much a release matters.</summary>
    public static WordTable<Urgency> Urgencies { get; } = new(
        (Urgency.Low, "low"), (Urgency.Medium, "medium"), (Urgency.High, "high"), (Urgency.Critical, "critical"));
}
