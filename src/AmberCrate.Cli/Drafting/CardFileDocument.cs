using AmberCrate.Core.Drafting;

namespace AmberCrate.Cli.Drafting;

/// <summary>A file that a card names, as JSON.</summary>
internal sealed record CardFileDocument(string Location, string Sha256, long Size)
{
    public static IReadOnlyList<CardFileDocument> ListFor(ReleaseDraft release) =>
        [.. release.Group.Files.Select(file => new CardFileDocument(
            file.Location, file.Contents.Sha256.Hex, file.Contents.Size))];
}
