using AmberCrate.Cli.Texts;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;

namespace AmberCrate.Cli.Shared;

/// <summary>A file that delivers a release, as JSON.</summary>
internal sealed record ArtifactDocument(
    string Source, IReadOnlyList<string> Mirrors, string Format, string Sha256, long DownloadSize)
{
    public static ArtifactDocument FromFile(Artifact file, Sha256Digest digest, Uri address) => new(
        PlainText.Shown(file.Location.Resolve(address)),
        [.. file.Mirrors.Select(mirror => PlainText.Shown(mirror.Resolve(address)))],
        CardWords.Formats.WordOf(file.Format), digest.Hex, file.DownloadSize);
}
