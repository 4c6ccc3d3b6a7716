using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Publishing;

/// <summary>Keys, as JSON.</summary>
internal sealed record KeysDocument(IReadOnlyList<KeyDocument> Keys, int Format = DocumentFormat.Number);
