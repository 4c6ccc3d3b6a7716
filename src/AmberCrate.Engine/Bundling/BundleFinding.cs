using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Bundling;

/// <summary>Something about an entry of a bundle.</summary>
/// <param name="Kind">What it is about.</param>
/// <param name="App">The app; null where it is about the whole bundle.</param>
/// <param name="Place">The file and line; null where it is about no line.</param>
/// <param name="Words">What it is, in words.</param>
public sealed record BundleFinding(BundleFindingKind Kind, string? App, string? Place, Advice Words);

/// <summary>What can be said about an entry of a bundle.</summary>
public enum BundleFindingKind
{
    /// <summary>It cannot be installed.</summary>
    NotOffered,

    /// <summary>The catalogue offers another file than was sealed.</summary>
    NotAsSealed,

    /// <summary>Its pin has lapsed.</summary>
    PinLapsed,

    /// <summary>A newer version is offered than the one it names.</summary>
    Behind,

    /// <summary>What its card says has changed since the bundle was sealed.</summary>
    CardsChanged,

    /// <summary>No digest is fixed.</summary>
    NoDigest,
}

/// <summary>The words for <see cref="BundleFindingKind"/>, in lists and in JSON.</summary>
public static class BundleFindingWords
{
    /// <summary>A word for each kind.</summary>
    public static WordTable<BundleFindingKind> Kinds { get; } = new(
        (BundleFindingKind.NotOffered, "not-offered"), (BundleFindingKind.NotAsSealed, "not-as-sealed"),
        (BundleFindingKind.PinLapsed, "pin-lapsed"), (BundleFindingKind.Behind, "behind"),
        (BundleFindingKind.CardsChanged, "cards-changed"), (BundleFindingKind.NoDigest, "no-digest"));
}
