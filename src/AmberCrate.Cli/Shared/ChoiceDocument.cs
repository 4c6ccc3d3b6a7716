using AmberCrate.Cli.Texts;
using AmberCrate.Core.Offers;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Cli.Shared;

/// <summary>What a machine would get, as JSON.</summary>
internal sealed record ChoiceDocument(
    string Version,
    string Source,
    long DownloadSize,
    string Sha256,
    IReadOnlyList<ArtifactDocument> Files,
    IReadOnlyList<string> Places)
{
    public static ChoiceDocument? OfMaybe(ReleaseChoice? choice, MachineLayout layout) =>
        choice is null ? null : new ChoiceDocument(
        choice.Release.Version.Text, PlainText.Shown(choice.Delivery.Files[0].Location.Resolve(choice.Offer.Base)),
        choice.Delivery.DownloadSize, choice.Delivery.Sha256.Hex,
        [.. choice.Delivery.Files.Select(file => ArtifactDocument.FromFile(file, file.Sha256, choice.Offer.Base))],
        [.. choice.Places.Select(place => layout.PathOf(place.Kind, place.Name))]);
}
