using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Engine.Publishing;

/// <summary>A copy of a signed catalogue that is wanted.</summary>
/// <param name="Name">The catalogue.</param>
/// <param name="Folder">Where the copy is to be.</param>
public sealed record MirrorRequest(CatalogueName Name, string Folder)
{
    /// <summary>Whether artifacts that are beside the catalogue are copied too.</summary>
    public bool WithArtifacts { get; init; }

    /// <summary>The ids of the apps whose artifacts are wanted; empty for all.</summary>
    public IReadOnlyList<string> Apps { get; init; } = [];

    /// <summary>The release line whose artifacts are wanted; null for all.</summary>
    public ReleaseLine? Line { get; init; }

    /// <summary>The platform whose artifacts are wanted; null for all.</summary>
    public Platform? Platform { get; init; }
}
