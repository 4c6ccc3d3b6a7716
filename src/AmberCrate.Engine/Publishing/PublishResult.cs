using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Publishing;

/// <summary>A catalogue that has been published.</summary>
/// <param name="Folder">The folder as it was named.</param>
/// <param name="Path">Its absolute path.</param>
/// <param name="Document">The entry document.</param>
public sealed record PublishResult(string Folder, string Path, CatalogueDocument Document)
{
    /// <summary>The artifacts that were removed, since no card names them any more.</summary>
    public IReadOnlyList<string> Pruned { get; init; } = [];

    /// <summary>The digest of the root under which it is signed now; null where it is not signed.</summary>
    public Sha256Digest? Root { get; init; }

    /// <summary>Whether the pages stay as they are until what they would show has been signed by everybody.</summary>
    public bool DoPagesWait { get; init; }

    /// <summary>Why the apps of other maintainers are not on the pages; null where they are, or where there are none.</summary>
    public string? WithoutOthers { get; init; }

    /// <summary>What still lacks signatures; machines read what was published before as long as it does.</summary>
    public IReadOnlyList<WaitingRole> Waiting { get; init; } = [];

    /// <summary>How many pages there are for a browser; 0 for none.</summary>
    public int Pages { get; init; }
}
