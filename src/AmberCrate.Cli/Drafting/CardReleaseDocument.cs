using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Drafting;

/// <summary>A release that has been added to a card, as JSON.</summary>
internal sealed record CardReleaseDocument(
    string Card, string Version, string Platform, string Location, string Sha256, long Size, int Format = DocumentFormat.Number);
