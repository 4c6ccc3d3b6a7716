using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Shell;

/// <summary>The commands, as JSON.</summary>
internal sealed record HelpDocument(IReadOnlyList<HelpCommandDocument> Commands, int Format = DocumentFormat.Number);
