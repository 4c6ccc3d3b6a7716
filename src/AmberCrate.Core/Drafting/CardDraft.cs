using AmberCrate.Core.Cards;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Drafting;

/// <summary>
/// A card as far as a vendor's file tells it. What it does not tell is a question for the user who writes the card.
/// </summary>
public sealed record CardDraft
{
    /// <summary>The id that is proposed.</summary>
    public required AppId Id { get; init; }

    /// <summary>What it seems to be.</summary>
    public required AppKind Kind { get; init; }

    /// <summary>The name for people.</summary>
    public required string Name { get; init; }

    /// <summary>One line about it; null where the file does not say.</summary>
    public string? Summary { get; init; }

    /// <summary>Paragraphs about it.</summary>
    public string? Description { get; init; }

    /// <summary>Who makes it.</summary>
    public string? Developer { get; init; }

    /// <summary>Its page.</summary>
    public string? Homepage { get; init; }

    /// <summary>Its licence, where it is an SPDX expression.</summary>
    public string? Licence { get; init; }

    /// <summary>Registered categories.</summary>
    public IReadOnlyList<string> Categories { get; init; } = [];

    /// <summary>Further words.</summary>
    public IReadOnlyList<string> Keywords { get; init; } = [];

    /// <summary>The types of file that it opens.</summary>
    public IReadOnlyList<string> MimeTypes { get; init; } = [];

    /// <summary>Pictures of it.</summary>
    public IReadOnlyList<Screenshot> Screenshots { get; init; } = [];

    /// <summary>The texts in other languages.</summary>
    public IReadOnlyList<Translation> Translations { get; init; } = [];

    /// <summary>The names of the system's packages of the same software.</summary>
    public IReadOnlyList<string> SystemPackages { get; init; } = [];

    /// <summary>The apps that it does not work without.</summary>
    public IReadOnlyList<AppId> Needs { get; init; } = [];

    /// <summary>What it places.</summary>
    public Placement Placement { get; init; } = Placement.Nothing;

    /// <summary>The release that the file delivers.</summary>
    public required ReleaseDraft Release { get; init; }

    /// <summary>Releases that other files deliver, newest first; none of the same version and platform as another.</summary>
    public IReadOnlyList<ReleaseDraft> Further { get; init; } = [];

    /// <summary>What a user should look at, in words.</summary>
    public IReadOnlyList<string> Questions { get; init; } = [];
}
