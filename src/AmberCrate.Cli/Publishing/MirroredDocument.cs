using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Publishing;

/// <summary>A copy of a catalogue, as JSON.</summary>
internal sealed record MirroredDocument(string Folder, int Fetched, long Size, int Kept, int Format = DocumentFormat.Number);
