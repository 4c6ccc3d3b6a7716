using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>One of the possible states of an app after a run: a release installed, left as it is, or not there.</summary>
/// <param name="Choice">The release to install; null for none.</param>
/// <param name="Kept">The app as it is; null unless it is left so.</param>
internal sealed record Candidate(ReleaseChoice? Choice, InstalledApp? Kept)
{
    /// <summary>Not there.</summary>
    public static readonly Candidate Absent = new(null, null);

    /// <summary>The version that is there; null for none.</summary>
    public AppVersion? Version => Choice?.Release.Version ?? Kept?.Version;

    /// <summary>What does not go without.</summary>
    public IReadOnlyList<RelatedApp> Needs =>
        Choice is { } choice ? choice.Offer.Card.NeedsOf(choice.Release) : Kept?.Needs ?? [];

    /// <summary>What cannot be there beside it.</summary>
    public IReadOnlyList<RelatedApp> Conflicts =>
        Choice is { } choice ? choice.Offer.Card.ConflictsOf(choice.Release) : Kept?.Conflicts ?? [];

    /// <summary>Whether it is one of the releases that another app means.</summary>
    public bool IsMeantBy(RelatedApp other) =>
        Version is { } version && other.Accepts(version, Choice?.Release.Line ?? Kept!.Line);
}
