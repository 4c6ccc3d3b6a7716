using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Drafting;

/// <summary>A release that has been added to a card, as JSON.</summary>
internal sealed record CardReleaseDocument(
    string Card, string Version, string Platform, IReadOnlyList<CardFileDocument> Files, int Format = DocumentFormat.Number);
