using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Drafting;

/// <summary>Writes app cards from what vendors ship.</summary>
/// <param name="session">The session.</param>
public sealed class DraftCard(Session session)
{
    private const UnixFileMode Mode =
        UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.GroupRead | UnixFileMode.OtherRead;

    /// <summary>
    /// Drafts a card for each app; files of one app become its releases. A card that is there already is not touched. What fails
    /// does not stop the others.
    /// </summary>
    /// <param name="files">The files, or addresses.</param>
    /// <param name="folder">The folder of cards.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public async Task<DraftsResult> RunAsync(IReadOnlyList<string> files, string folder, CancellationToken cancel)
    {
        folder = session.Host.FullPath(folder);
        var (read, cards, failed) = (new List<ReadFile>(), new List<DraftResult>(), new List<(string, Problem)>());
        foreach (var file in files)
        {
            try
            {
                read.Add(await ReadAsync(file, folder, cancel));
            }
            catch (Exception fault) when (IoProblems.IsExpected(fault) || SourceFault.IsOfSource(fault))
            {
                failed.Add((file, IoProblems.ToProblem(fault, $"{file} cannot be read")));
            }
        }

        foreach (var app in read.GroupBy(file => file.Draft.Id))
        {
            var ordered = app.OrderByDescending(file => file.Draft.Release.Version).ToList();
            var once = ordered.DistinctBy(file => (file.Draft.Release.Version, file.Draft.Release.Platform)).ToList();
            failed.AddRange(ordered.Except(once).Select(file => (file.Source, new Problem(
                ProblemCode.Refused,
                $"another file is {app.Key} {file.Draft.Release.Version} for {file.Draft.Release.Platform} too",
                "the card names one of them"))));
            try
            {
                cards.Add(Write(once, folder));
            }
            catch (Exception fault) when (IoProblems.IsExpected(fault))
            {
                failed.AddRange(once.Select(file => (file.Source, IoProblems.ToProblem(fault, "the card cannot be written"))));
            }
        }

        return new DraftsResult(cards, failed);
    }

    private async Task<ReadFile> ReadAsync(string place, string folder, CancellationToken cancel)
    {
        using var vendor = await VendorFile.OpenAsync(session, place, folder, cancel);
        var contents = await new PackageReader(vendor.Work).ReadAsync(vendor.Path, vendor.Name, cancel);
        var today = DateOnly.FromDateTime(session.Host.Clock.GetLocalNow().DateTime);
        return new ReadFile(place, new Drafter(contents, vendor.Location, today).Draft(), vendor.IsElsewhere);
    }

    /// <summary>Writes the card of one app.</summary>
    /// <param name="files">Its files, the newest first.</param>
    /// <param name="folder">The folder of cards.</param>
    private static DraftResult Write(List<ReadFile> files, string folder)
    {
        var draft = files[0].Draft with { Further = [.. files.Skip(1).Select(file => file.Draft.Release)] };
        var target = Path.Combine(folder, draft.Id.Text + AppCard.FileEnding);
        if (Path.Exists(target))
            throw new Problem(
                ProblemCode.Refused, $"there is a card {Path.GetFileName(target)} already", "it has not been touched",
                NextCommand.Create("card release", target, files[0].Source)).ToException();
        var text = CardDraftText.Write(draft);
        var faults = new List<FormatFault>();
        _ = CardReader.Read(text, Path.GetFileName(target), faults);
        Directory.CreateDirectory(folder);
        AtomicFile.Write(target, System.Text.Encoding.UTF8.GetBytes(text), Mode);
        return new DraftResult(
            [.. files.Select(file => file.Source)], target, draft, [.. faults.Select(fault => fault.ToString())])
        {
            Elsewhere = [.. files.Where(file => file.IsElsewhere).Select(file => (file.Source, file.Draft.Release.Location))],
        };
    }

    /// <summary>A file that has been looked at.</summary>
    private sealed record ReadFile(string Source, CardDraft Draft, bool IsElsewhere);
}
