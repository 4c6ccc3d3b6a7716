using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Terminal;
using AmberCrate.Core.Machine;
using AmberCrate.Engine.Listing;

namespace AmberCrate.Cli.Listing;

/// <summary>Software that others have put on the machine, as JSON.</summary>
internal sealed record ObservedDocument(
    IReadOnlyList<ObservedAppDocument> Found, IReadOnlyList<CatalogueDataDocument> Catalogues, int Format = DocumentFormat.Number)
{
    public static ObservedDocument FromResult(ObservedResult result) => new(
        [.. result.Found.Select(match => new ObservedAppDocument(
            match.Observed.Name, ObservedWords.Kinds.WordOf(match.Observed.Kind), match.Observed.Title,
                match.Observed.VersionText,
            match.Observed.IsProtected, match.Observed.Places, match.Observed.Removal, match.App?.Text, match.Catalogue?.Text,
            match.Offered?.Text, match.IsOlder, match.IsInstalled))],
        CatalogueDataDocument.FromCatalogues(result.Freshness.States));
}

/// <summary>One thing that others have put on the machine, as JSON.</summary>
internal sealed record ObservedAppDocument(
    string Name, string Kind, string? Title, string? Version, bool Protected, IReadOnlyList<string> Places, string? Removal,
    string? App, string? Catalogue, string? Offered, bool Older, bool Installed);
