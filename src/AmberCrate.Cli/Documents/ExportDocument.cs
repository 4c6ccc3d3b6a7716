namespace AmberCrate.Cli.Documents;

/// <summary>What an export has written, as JSON.</summary>
internal sealed record ExportDocument(
    string File,
    int Apps,
    IReadOnlyList<string> NotOnThisMachine,
    IReadOnlyList<string> NotCarried,
    int Format = DocumentFormat.Number);
