using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Cataloguing;

/// <summary>A catalogue that is to be added.</summary>
/// <param name="Name">What to call it here.</param>
/// <param name="Location">Where it is, as the user wrote it.</param>
public sealed record AddCatalogueRequest(CatalogueName Name, string Location)
{
    /// <summary>The names of catalogues that may take over the apps of another one of their name.</summary>
    public IReadOnlyList<string> TakesOver { get; init; } = [];

    /// <summary>The root that is trusted: the path of its file, or its SHA-256; null to ask.</summary>
    public string? Trust { get; init; }

    /// <summary>Folders and addresses where the same files lie, too, as the user wrote them.</summary>
    public IReadOnlyList<string> Mirrors { get; init; } = [];

    /// <summary>Whether it need not be signed.</summary>
    public bool AllowsUnsigned { get; init; }
}
