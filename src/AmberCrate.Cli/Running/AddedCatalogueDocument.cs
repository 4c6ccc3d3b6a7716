namespace AmberCrate.Cli.Running;

/// <summary>A catalogue that a plan adds, as JSON.</summary>
internal sealed record AddedCatalogueDocument(
    string Name,
    string Location);
