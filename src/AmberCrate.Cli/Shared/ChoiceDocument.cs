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
    IReadOnlyList<string> Places)
{
    public static ChoiceDocument? OfMaybe(ReleaseChoice? choice, MachineLayout layout) =>
        choice is null ? null : new ChoiceDocument(
        choice.Release.Version.Text, PlainText.Shown(choice.Artifact.Location.Resolve(choice.Offer.Base)),
        choice.Artifact.DownloadSize, choice.Artifact.Sha256.Hex,
        [.. choice.Places.Select(place => layout.PathOf(place.Kind, place.Name))]);
}
