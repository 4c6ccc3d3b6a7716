using AmberCrate.Core.Placements;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Cards;

/// <summary>One version of an app.</summary>
public sealed record Release
{
    /// <summary>The version.</summary>
    public required AppVersion Version { get; init; }

    /// <summary>The day on which it came out.</summary>
    public required DateOnly Date { get; init; }

    /// <summary>The line it belongs to as the card says; null where it is silent.</summary>
    public ReleaseLine? DeclaredLine { get; init; }

    /// <summary>What is new in it; null where the card is silent.</summary>
    public string? Notes { get; init; }

    /// <summary>How much it matters to those who have an older one; null where the card is silent.</summary>
    public Urgency? Urgency { get; init; }

    /// <summary>Why it must not be installed any more; null where it may.</summary>
    public string? Withdrawn { get; init; }

    /// <summary>Whether the card marks it as a security fix.</summary>
    public bool IsSecurityFix => Urgency == Cards.Urgency.Critical;

    /// <summary>The files that deliver it: one or several per platform.</summary>
    public required IReadOnlyList<Artifact> Artifacts { get; init; }

    /// <summary>What this release places; null where it places what the card says for all releases.</summary>
    public Placement? Placement { get; init; }

    /// <summary>What this release does not work without; null where it needs what the card says for all releases.</summary>
    public IReadOnlyList<RelatedApp>? Needs { get; init; }

    /// <summary>What this release expects the system to have; null where it is what the card says for all releases.</summary>
    public IReadOnlyList<SystemRequirement>? Requirements { get; init; }

    /// <summary>What cannot be there beside this release; null where it is what the card says for all releases.</summary>
    public IReadOnlyList<RelatedApp>? Conflicts { get; init; }

    /// <summary>The line it belongs to: as declared, otherwise preview for a pre-release and stable for the rest.</summary>
    public ReleaseLine Line => DeclaredLine ?? (Version.IsPreRelease ? ReleaseLine.Preview : ReleaseLine.Stable);

    /// <summary>Whether something of it runs on a machine, also if it has been withdrawn and may not be taken.</summary>
    public bool RunsOn(Platform machine) => Artifacts.Any(artifact => artifact.Platform.RunsOn(machine));

    /// <summary>What it delivers for each platform, in the order of the card.</summary>
    public IEnumerable<Delivery> Deliveries =>
        Artifacts.GroupBy(artifact => artifact.Platform).Select(files => new Delivery([.. files]));

    /// <summary>
    /// What is delivered with a digest and runs on a machine; null if there is none, or if the release has been withdrawn.
    /// </summary>
    /// <param name="machine">The machine.</param>
    /// <param name="sha256">The digest of the delivery.</param>
    public Delivery? DeliveryFor(Platform machine, Sha256Digest sha256) =>
        Withdrawn is null ? DeliveryToRepair(machine, sha256) : null;

    /// <summary>
    /// What is delivered with a digest and runs on a machine, to put an installed app right: only for this, a release that has
    /// been withdrawn may be taken. Whoever does so says it.
    /// </summary>
    /// <param name="machine">The machine.</param>
    /// <param name="sha256">The digest of the delivery; null for any.</param>
    public Delivery? DeliveryToRepair(Platform machine, Sha256Digest? sha256) => Deliveries.FirstOrDefault(
        delivery => delivery.Platform.RunsOn(machine) && (sha256 is null || delivery.Sha256 == sha256));

    /// <summary>
    /// What is delivered for a machine, the most specific platform first; null where there is nothing, or the release is
    /// withdrawn.
    /// </summary>
    public Delivery? DeliveryFor(Platform machine)
    {
        if (Withdrawn is not null) return null;
        Artifact? best = null;
        var files = 0;
        var artifacts = Artifacts;
        for (var at = 0; at < artifacts.Count; at++)
        {
            var artifact = artifacts[at];
            if (best is not null && artifact.Platform == best.Platform) files++;
            else if (artifact.Platform.RunsOn(machine) && (best is null || artifact.Platform.OpenParts < best.Platform.OpenParts))
                (best, files) = (artifact, 1);
        }

        if (best is null) return null;
        return new Delivery(files == 1 ? [best] : [.. artifacts.Where(artifact => artifact.Platform == best.Platform)]);
    }
}
