namespace AmberCrate.Cli.Documents;

/// <summary>The commands, as JSON.</summary>
internal sealed record HelpDocument(IReadOnlyList<HelpCommandDocument> Commands, int Format = DocumentFormat.Number);
