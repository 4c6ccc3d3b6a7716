using AmberCrate.Core.Values;

namespace AmberCrate.Core.Cards;

/// <summary>What a user will have to do when an app is installed.</summary>
public enum Attention
{
    /// <summary>The machine has to be restarted before the app works.</summary>
    Restart,

    /// <summary>The app shows a dialog at its first start.</summary>
    Dialog,

    /// <summary>Terms of a licence must be accepted.</summary>
    Licence,
}

/// <content>The words for <see cref="Attention"/>.</content>
public static partial class CardWords
{
    /// <summary>What a user will have to see to.</summary>
    public static WordTable<Attention> Attentions { get; } = new(
        (Attention.Restart, "restart"),
        (Attention.Dialog, "dialog"),
        (Attention.Licence, "licence"));
}
