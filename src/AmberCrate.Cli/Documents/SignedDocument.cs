namespace AmberCrate.Cli.Documents;

/// <summary>What has been signed, as JSON.</summary>
internal sealed record SignedDocument(string Folder, IReadOnlyList<string> Roles, int Format = DocumentFormat.Number);
