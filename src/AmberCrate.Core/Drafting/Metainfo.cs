using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Drafting;

/// <summary>What an AppStream metainfo file says, as far as a card has a place for it.</summary>
public sealed record Metainfo
{
    /// <summary>The component's id, as it was written.</summary>
    public string? Id { get; init; }

    /// <summary>The component's type: <c>desktop-application</c>.</summary>
    public string? Type { get; init; }

    /// <summary>The English texts.</summary>
    public Translation English { get; init; } = new("en", null, null, [], null);

    /// <summary>The texts in other languages.</summary>
    public IReadOnlyList<Translation> Translations { get; init; } = [];

    /// <summary>The licence, as it was written.</summary>
    public string? Licence { get; init; }

    /// <summary>Who makes it.</summary>
    public string? Developer { get; init; }

    /// <summary>Its page.</summary>
    public string? Homepage { get; init; }

    /// <summary>The categories.</summary>
    public IReadOnlyList<string> Categories { get; init; } = [];

    /// <summary>The types of file that it opens.</summary>
    public IReadOnlyList<string> MimeTypes { get; init; } = [];

    /// <summary>Pictures of it.</summary>
    public IReadOnlyList<Screenshot> Screenshots { get; init; } = [];

    /// <summary>The ids of its desktop entries, without <c>.desktop</c>.</summary>
    public IReadOnlyList<string> DesktopEntries { get; init; } = [];

    /// <summary>Its releases, in the order of the file.</summary>
    public IReadOnlyList<MetainfoRelease> Releases { get; init; } = [];
}
