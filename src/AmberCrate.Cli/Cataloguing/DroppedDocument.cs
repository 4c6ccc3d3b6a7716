using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Cataloguing;

/// <summary>A catalogue that has been dropped, as JSON.</summary>
internal sealed record DroppedDocument(
    string Dropped,
    int InstalledApps,
    int Format = DocumentFormat.Number);
