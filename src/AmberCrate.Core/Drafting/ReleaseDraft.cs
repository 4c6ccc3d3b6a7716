using AmberCrate.Core.Cards;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Drafting;

/// <summary>A release as far as a vendor's files tell it.</summary>
/// <param name="Version">The version; null where the file does not say.</param>
/// <param name="Date">The day on which it came out.</param>
/// <param name="Group">The files that deliver it.</param>
public sealed record ReleaseDraft(AppVersion? Version, DateOnly Date, PackageGroup Group)
{
    /// <summary>How much it matters; null where nothing says.</summary>
    public Urgency? Urgency { get; init; }

    /// <summary>What is new in it; null where nothing says.</summary>
    public string? Notes { get; init; }

    /// <summary>What it expects the system to have; null if the file was not looked into.</summary>
    public IReadOnlyList<SystemRequirement>? Requirements { get; init; }

    /// <summary>The release line; null for the usual one.</summary>
    public ReleaseLine? Line { get; init; }

    /// <summary>The platform: that of its programs, otherwise any.</summary>
    public Platform Platform => Group.Together.Platform ?? Platform.Parse("any-linux-any");
}
