namespace AmberCrate.Cli.Documents;

/// <summary>Keys, as JSON.</summary>
internal sealed record KeysDocument(IReadOnlyList<KeyDocument> Keys, int Format = DocumentFormat.Number);
