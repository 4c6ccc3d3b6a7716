using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>Whether the catalogue's maintainers have looked at an app.</summary>
public enum ReviewState
{
    /// <summary>Not reviewed, or the card does not say.</summary>
    Unreviewed,

    /// <summary>Someone is looking at it.</summary>
    Pending,

    /// <summary>Looked at and found good.</summary>
    Reviewed,
}

/// <content>The words for <see cref="ReviewState"/>.</content>
public static partial class CardWords
{
    /// <summary>Review states.</summary>
    public static WordTable<ReviewState> ReviewStates { get; } = new(
        (ReviewState.Unreviewed, "unreviewed"),
        (ReviewState.Pending, "pending"),
        (ReviewState.Reviewed, "reviewed"));
}
