namespace AmberCrate.Cli.Documents;

/// <summary>A catalogue that a plan adds, as JSON.</summary>
internal sealed record AddedCatalogueDocument(
    string Name,
    string Location);
