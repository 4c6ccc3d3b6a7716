using AmberCrate.Cli.Exporting;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Bundling;

namespace AmberCrate.Cli.Bundling;

/// <summary>What is in a bundle, as JSON.</summary>
internal sealed record BundleDocument(
    string Name, string? Title, bool ForThisMachine, string? Sealed, string? CapturedOn, string? CapturedAt,
    IReadOnlyList<string> BuildsOn, IReadOnlyList<BundleCatalogueDocument> Catalogues, IReadOnlyList<BundleAppDocument> Apps,
    IReadOnlyList<LeftBehindDocument> LeftBehind, int Format = DocumentFormat.Number)
{
    public IReadOnlyList<string> Unmatched { get; private init; } = [];

    public static BundleDocument FromBundle(OpenedBundle opened)
    {
        var bundle = opened.Flat.Bundle;
        return new BundleDocument(
            opened.Name, bundle.Title, !opened.Flat.IsForOthers, bundle.Sealed is { } day ? PlainText.Date(day) : null,
            bundle.Captured?.On, bundle.Captured is { } captured ? PlainText.Date(captured.Date) : null,
            [.. opened.Top.Bundle.BuildsOn.Select(below => below.Place)],
            [.. bundle.Catalogues.Select(one => new BundleCatalogueDocument(one.Name.Text, one.Location))],
            [.. opened.Flat.Entries.Select(BundleAppDocument.FromEntry)],
                [.. bundle.LeftBehind.Select(LeftBehindDocument.FromApp)])
        {
            Unmatched = opened.Flat.Unmatched,
        };
    }
}

/// <summary>A catalogue of a bundle, as JSON.</summary>
internal sealed record BundleCatalogueDocument(string Name, string Location);

/// <summary>An entry of a bundle, as JSON.</summary>
internal sealed record BundleAppDocument(
    string Reference, string? Version, string? Sha256, string? Platform, IReadOnlyList<string> InstallerArguments,
    string? PinnedTo, bool Dependency, bool Observed, string From, int Line, string? LeftOut)
{
    public static BundleAppDocument FromEntry(FlatEntry entry) => new(
        entry.App.Reference.ToString(), entry.App.Version?.Text, entry.App.Sha256?.Hex, entry.App.Platform?.ToString(),
        entry.App.InstallerArguments, entry.App.Pin?.Selector.ToString(), entry.App.IsDependency, entry.App.IsObserved,
        entry.From, entry.App.Line, entry.LeftOut);
}

/// <summary>What editing a bundle has done, as JSON.</summary>
internal sealed record BundleEditDocument(
    string File, int Apps, IReadOnlyList<string> Added, IReadOnlyList<string> Changed, IReadOnlyList<string> Unchanged,
    IReadOnlyList<string> Dropped, IReadOnlyList<string> DroppedBelow, int Format = DocumentFormat.Number);

/// <summary>A bundle that has been sealed, as JSON.</summary>
internal sealed record SealedDocument(string File, int Apps, long DownloadSize, int Format = DocumentFormat.Number);

/// <summary>How a bundle stands to the catalogues, as JSON.</summary>
internal sealed record BundleCheckDocument(
    string Name, bool Broken, int Apps, IReadOnlyList<BundleFindingDocument> Findings, int Format = DocumentFormat.Number)
{
    public static BundleCheckDocument FromCheck(BundleCheck check, CallOptions call) => new(
        check.Bundle.Name, check.IsBroken, check.Bundle.Flat.Bundle.Apps.Count,
        [.. check.Findings.Select(finding => new BundleFindingDocument(
            BundleFindingWords.Kinds.WordOf(finding.Kind), finding.App, finding.Place, finding.Words.In(call)))]);
}

/// <summary>Something about an entry of a bundle, as JSON.</summary>
internal sealed record BundleFindingDocument(string Kind, string? App, string? Place, string Words);

/// <summary>The bundles that catalogues carry, as JSON.</summary>
internal sealed record BundlesDocument(IReadOnlyList<BundleDocument> Bundles, int Format = DocumentFormat.Number);
