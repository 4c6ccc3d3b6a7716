using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Publishing;

/// <summary>What has been signed, as JSON.</summary>
internal sealed record SignedDocument(
    string Folder, IReadOnlyList<string> Roles, IReadOnlyList<WaitingDocument> Waiting, int Format = DocumentFormat.Number);
