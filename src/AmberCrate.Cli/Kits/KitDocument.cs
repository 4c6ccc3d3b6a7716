using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Engine.Kits;

namespace AmberCrate.Cli.Kits;

/// <summary>A kit, as JSON.</summary>
internal sealed record KitDocument(
    IReadOnlyList<string> Files, string Title, string Platform, string Created, long Size, string? Program,
    IReadOnlyList<KitAppDocument> Apps, IReadOnlyList<string> NotSigned,
    IReadOnlyList<string> Requires, IReadOnlyList<string> Silent, int Format = DocumentFormat.Number)
{
    public static KitDocument FromResult(KitResult result) =>
        new(
            result.Files, result.Manifest.Title, result.Manifest.Platform.ToString(), PlainText.Time(result.Manifest.Created),
            result.Size, result.Program,
            [.. result.Bundle.Apps.Select(app => new KitAppDocument(
                app.Reference.Name, app.Reference.Catalogue?.Text, app.Version!.Text, result.Sizes[app.Sha256!],
                app.Sha256!.Hex, app.IsDependency, result.Newer.GetValueOrDefault(app.Reference.Name)))],
            result.Manifest.NotSigned, [.. result.Requirements.Select(requirement => requirement.Words).Distinct()],
            result.Silent);
}

/// <summary>An app in a kit, as JSON.</summary>
internal sealed record KitAppDocument(
    string Id, string? Catalogue, string Version, long Size, string Sha256, bool Dependency, string? Newer);
