using AmberCrate.Core.Cards;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Placing;

namespace AmberCrate.Engine.Drafting;

/// <summary>Unpacks releases whose files are beside the cards into a temporary folder, as they would be on the shelf.</summary>
/// <param name="folder">The folder of cards.</param>
/// <param name="cards">The cards of the folder.</param>
internal sealed class TemporaryShelf(string folder, IEnumerable<AppCard> cards)
{
    private const UnixFileMode EveryoneReads = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute
        | UnixFileMode.GroupRead | UnixFileMode.GroupExecute | UnixFileMode.OtherRead | UnixFileMode.OtherExecute;

    private readonly Dictionary<AppId, AppCard> _cards = cards.DistinctBy(card => card.Id).ToDictionary(card => card.Id);

    /// <summary>Makes the folder of a shelf entry.</summary>
    /// <param name="work">A temporary folder.</param>
    /// <param name="id">The app.</param>
    public static string MakeEntry(string work, AppId id)
    {
        foreach (var above in new[] { "shelf", $"shelf/{id}" })
            Directory.CreateDirectory(Path.Combine(work, above), EveryoneReads);
        return Directory.CreateDirectory(Path.Combine(work, "shelf", id.Text, "app"), EveryoneReads).FullName;
    }

    /// <summary>Unpacks a release into a shelf entry.</summary>
    /// <param name="delivery">Its files.</param>
    /// <param name="placement">What it places.</param>
    /// <param name="entry">The folder of the entry, which is empty.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <returns>Why it cannot be unpacked; null if it was.</returns>
    public async Task<string?> UnpackAsync(
        Delivery delivery, Placement placement, string entry, CancellationToken cancel)
    {
        try
        {
            var unpacker = new Unpacker(entry, cancel);
            foreach (var artifact in delivery.Files)
            {
                var path = artifact.Location.Absolute is null ? Path.Combine(folder, artifact.Location.Text) : null;
                if (path is null || !File.Exists(path)) return $"{artifact.Location} is not beside the card";
                if (await VerifiedFile.FindAsync(path, artifact.DownloadSize, artifact.Sha256, cancel) is not { } verified)
                    return $"{artifact.Location} is not as the card says";
                _ = unpacker.Add(PresentFile.FromVerified(verified), artifact);
            }

            unpacker.End();
            OwnFiles.Add(entry, placement);
            return null;
        }
        catch (ProblemException fault)
        {
            return $"{fault.Problem.What}: {fault.Problem.Why}";
        }
    }

    /// <summary>Unpacks the apps that a release borrows from beside its own shelf entry.</summary>
    /// <param name="borrows">These apps.</param>
    /// <param name="work">The temporary folder with the entry.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <returns>Why one of them cannot be unpacked; null if all were.</returns>
    public async Task<string?> UnpackLendersAsync(IReadOnlyList<AppId> borrows, string work, CancellationToken cancel)
    {
        foreach (var id in borrows)
        {
            var release = _cards.GetValueOrDefault(id)?.Releases
                .FirstOrDefault(one => one.Withdrawn is null && one.DeliveryFor(HostPlatform.Current) is not null);
            if (release is null) return $"no release of {id}, whose files it borrows, is in this folder for this machine";
            var entry = MakeEntry(work, id);
            var delivery = release.DeliveryFor(HostPlatform.Current)!;
            if (await UnpackAsync(delivery, _cards[id].PlacementOf(release), entry, cancel) is { } why) return $"{id}: {why}";
            var front = Directory.CreateDirectory(Path.Combine(work, "front"), EveryoneReads).FullName;
            File.CreateSymbolicLink(Path.Combine(front, id.Text), entry);
        }

        return null;
    }
}
