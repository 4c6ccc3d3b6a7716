using AmberCrate.Core.Cards;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Drafting;
using AmberCrate.Engine.Host;

namespace AmberCrate.Engine.Operations;

/// <summary>Writes app cards from what vendors ship.</summary>
/// <param name="session">The session.</param>
public sealed class DraftCard(Session session)
{
    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    /// <summary>Does it, one file after the other. A card that is there already is refused.</summary>
    /// <param name="files">The files, or addresses.</param>
    /// <param name="folder">The folder of cards.</param>
    /// <param name="cancel">Stops.</param>
    /// <exception cref="ProblemException">A file cannot be read, or its card is there already.</exception>
    public async Task<IReadOnlyList<DraftResult>> RunAsync(
        IReadOnlyList<string> files, string folder, CancellationToken cancel)
    {
        var results = new List<DraftResult>();
        foreach (var file in files) results.Add(await DraftAsync(file, session.Host.FullPath(folder), cancel));
        return results;
    }

    private async Task<DraftResult> DraftAsync(string place, string folder, CancellationToken cancel)
    {
        using var vendor = await VendorFile.OpenAsync(session, place, folder, cancel);
        var contents = await new PackageReader(vendor.Work).ReadAsync(vendor.Path, vendor.Name, cancel);
        var today = DateOnly.FromDateTime(session.Host.Clock.GetLocalNow().DateTime);
        var draft = new Drafter(contents, vendor.Location, today).Draft();
        var target = Path.Combine(folder, draft.Id.Text + AppCard.FileEnding);
        if (Path.Exists(target))
            throw new Problem(
                ProblemCode.Refused, $"there is a card {Path.GetFileName(target)} already", "nothing has been written",
                NextCommand.Of("card release", target, place)).ToException();
        var text = CardDraftText.Write(draft);
        var faults = new List<FormatFault>();
        _ = CardReader.Read(text, Path.GetFileName(target), faults);
        Directory.CreateDirectory(folder);
        AtomicFile.Write(target, System.Text.Encoding.UTF8.GetBytes(text), Mode);
        return new DraftResult(place, target, draft, [.. faults.Select(fault => fault.ToString())])
        {
            IsElsewhere = vendor.IsElsewhere,
        };
    }
}
