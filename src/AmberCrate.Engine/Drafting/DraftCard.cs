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
    /// Drafts a card for each app. Packages that depend on each other make one app; files of one app become its releases. A card
    /// that is there already is not touched. What fails does not stop the others.
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

        var drafts = new List<GroupDraft>();
        var today = DateOnly.FromDateTime(session.Host.Clock.GetLocalNow().DateTime);
        foreach (var group in PackageGrouping.Group([.. read.Select(one => one.File)]))
        {
            List<ReadFile> parts = [.. group.Files.Select(file => read.Find(one => ReferenceEquals(one.File, file))!)];
            if (group.SharedPath is { } shared)
                failed.Add((parts[0].Source, new Problem(
                    ProblemCode.Refused, $"the files of this app cannot be put together: two of them have {shared}",
                    string.Join(" and ", parts.Where(file => file.File.Contents.Files.Any(one => one.Path == shared))
                        .Select(file => file.Source)),
                    "draft from each alone")));
            else drafts.Add(new GroupDraft(parts, new Drafter(group, today).Draft()));
        }

        var there = CardsIn(folder);
        drafts = WithLenders(drafts);
        drafts = [.. drafts.Select(draft => WithProposals(draft, drafts, there))];
        foreach (var app in drafts.GroupBy(draft => draft.Draft.Id))
        {
            var ordered = app.OrderByDescending(draft => draft.Draft.Release.Version).ToList();
            var once = ordered.DistinctBy(draft => (draft.Draft.Release.Version, draft.Draft.Release.Platform)).ToList();
            failed.AddRange(ordered.Except(once).Select(draft => (draft.Files[0].Source, new Problem(
                ProblemCode.Refused,
                $"another file is {app.Key} {draft.Draft.Release.Version} for {draft.Draft.Release.Platform} too",
                "the card names one of them"))));
            try
            {
                cards.Add(Write(once, folder));
            }
            catch (Exception fault) when (IoProblems.IsExpected(fault))
            {
                failed.AddRange(once.SelectMany(draft => draft.Files)
                    .Select(file => (file.Source, IoProblems.ToProblem(fault, "the card cannot be written"))));
            }
        }

        return new DraftsResult(cards, failed);
    }

    /// <summary>The drafts of files, with the apps that they need for their libraries.</summary>
    private static List<GroupDraft> WithLenders(List<GroupDraft> drafts)
    {
        var newest = drafts.GroupBy(draft => draft.Draft.Id)
            .Select(app => app.MaxBy(draft => draft.Draft.Release.Version)!).ToList();
        var found = LenderSearch.FindLenders([.. newest.Select(draft => draft.Draft)]);
        return [.. drafts.Select(draft => newest.IndexOf(draft) is >= 0 and var at ? draft with { Draft = found[at] } : draft)];
    }

    /// <summary>
    /// Asks whether an app needs another one, since it depends on a package of that: one that is drafted with it, or one that has
    /// a card in the folder.
    /// </summary>
    private static GroupDraft WithProposals(GroupDraft draft, List<GroupDraft> all, IReadOnlyList<AppCard> cards)
    {
        var depends = draft.Draft.Release.Group.Together.Dependencies
            .SelectMany(one => one.Any.Select(package => package.Name)).ToHashSet(StringComparer.Ordinal);
        var drafted = from other in all
                      from file in other.Files
                      where file.File.Contents.PackageName is { } name && depends.Contains(name)
                      select (file.File.Contents.PackageName, other.Draft.Id);
        var there = from card in cards
                    from name in card.SystemPackages
                    where depends.Contains(name)
                    select (name, card.Id);
        var questions = drafted.Concat(there)
            .Where(one => one.Id != draft.Draft.Id && !draft.Draft.Needs.Contains(one.Id)).Distinct()
            .Select(one => $"It depends on {one.Item1}, which is the app {one.Id}: if it needs that app, add "
                + $"needs = [\"{one.Id}\"].");
        return draft with { Draft = draft.Draft with { Questions = [.. draft.Draft.Questions, .. questions] } };
    }

    /// <summary>The cards of a folder. Those that cannot be read are left out: card check reports them.</summary>
    private static List<AppCard> CardsIn(string folder)
    {
        var found = new List<AppCard>();
        foreach (var file in Directory.Exists(folder) ? Directory.GetFiles(folder, "*" + AppCard.FileEnding) : [])
        {
            try
            {
                if (CardReader.Read(File.ReadAllText(file), Path.GetFileName(file), []) is { } card) found.Add(card);
            }
            catch (Exception unreadable) when (IoProblems.IsExpected(unreadable))
            {
                // Reported by card check.
            }
        }

        return found;
    }

    private async Task<ReadFile> ReadAsync(string place, string folder, CancellationToken cancel)
    {
        using var vendor = await VendorFile.OpenAsync(session, place, folder, cancel);
        var contents = await new PackageReader(vendor.Work).ReadAsync(vendor.Path, vendor.Name, cancel);
        return new ReadFile(place, new DraftedFile(contents, vendor.Location), vendor.IsElsewhere);
    }

    /// <summary>Writes the card of one app.</summary>
    /// <param name="releases">Its releases, the newest first.</param>
    /// <param name="folder">The folder of cards.</param>
    private static DraftResult Write(List<GroupDraft> releases, string folder)
    {
        var draft = releases[0].Draft with { Further = [.. releases.Skip(1).Select(one => one.Draft.Release)] };
        var files = releases.SelectMany(one => one.Files).ToList();
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
            [.. releases.Select(one => (IReadOnlyList<string>)[.. one.Files.Select(file => file.Source)])], target, draft,
            [.. faults.Select(fault => fault.ToString())])
        {
            Elsewhere = [.. files.Where(file => file.IsElsewhere).Select(file => (file.Source, file.File.Location))],
        };
    }

    /// <summary>A file that has been looked at.</summary>
    private sealed record ReadFile(string Source, DraftedFile File, bool IsElsewhere);

    /// <summary>Files that make one app, and the draft of its card.</summary>
    private sealed record GroupDraft(IReadOnlyList<ReadFile> Files, CardDraft Draft);
}
