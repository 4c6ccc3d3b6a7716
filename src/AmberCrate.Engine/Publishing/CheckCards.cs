using AmberCrate.Core.CardFiles;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;
using AmberCrate.Core.Trials;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Drafting;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Publishing;

/// <summary>Checks app cards, with the artifacts that are beside them, before they are published.</summary>
/// <param name="session">The session.</param>
public sealed class CheckCards(Session session)
{
    /// <summary>Checks all cards of the folders.</summary>
    /// <param name="request">What is to be checked.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">There is no such file or folder.</exception>
    public Task<CardsChecked> RunAsync(CheckCardsRequest request, CancellationToken cancel) =>
        session.ReportAsync(progress => CheckAsync(request, progress, cancel));

    private async Task<CardsChecked> CheckAsync(CheckCardsRequest request, WorkProgress progress, CancellationToken cancel)
    {
        var (findings, trials) = (new List<CardFinding>(), new List<CardTrial>());
        var count = 0;
        foreach (var (folder, only) in Folders(request.Places))
        {
            var (cards, files) = Read(folder, only, findings);
            count += files;
            var checks = new CardChecks(cards);
            var shelf = new TemporaryShelf(folder, cards.Select(card => card.Card));
            var artifacts = new ArtifactChecks(folder, Programs(request.BaseSystem), shelf);
            List<CheckedCard> wanted = [.. cards.Where(card => only is null || only.Contains(card.File))];
            foreach (var (at, card) in wanted.Index())
            {
                progress("checking cards", at, wanted.Count);
                findings.AddRange(checks.Check(card));
                findings.AddRange(ArtifactChecks.Pictures(folder, card));
                findings.AddRange(await artifacts.RunAsync(card, _ => false, cancel));
                if (request.IsReaching) findings.AddRange(await ReachAsync(card, cancel));
                if (request.StartTime is not { } time) continue;
                var trial = await new ReleaseTrials(shelf, SystemRoot(request.BaseSystem), time).RunAsync(card.Card, cancel);
                trials.Add(trial);
                findings.AddRange(FindingsIn(trial, card));
            }

            findings.AddRange(artifacts.ProposeLenders(wanted));
        }

        return new CardsChecked(count, [.. findings.OrderBy(one => one.File, StringComparer.Ordinal).ThenBy(one => one.Line)])
        {
            Trials = trials,
        };
    }

    /// <summary>What does not start is a fault, what opens no window a warning. What was not tried is neither.</summary>
    private static IEnumerable<CardFinding> FindingsIn(CardTrial trial, CheckedCard card) =>
        from start in trial.Starts
        where start.Outcome is TrialOutcome.Failed or TrialOutcome.NoWindow
        select card.Finding("place", $"{trial.Version}, {start.Start}: {start.Words}", start.Outcome == TrialOutcome.Failed);

    /// <summary>The faults that keep a folder from being published.</summary>
    /// <param name="host">What is around the program.</param>
    /// <param name="request">How it is to be published. Artifacts that have been published before are not unpacked again.</param>
    /// <param name="cancel">Cancels the operation.</param>
    internal static async Task<IReadOnlyList<CardFinding>> FaultsAsync(
        HostEnvironment host, BuildRequest request, CancellationToken cancel)
    {
        var findings = new List<CardFinding>();
        var (cards, _) = Read(request.Cards, null, findings);

        // What cannot be read is reported by who reads it to publish it.
        if (findings.Count > 0) return [];
        var checks = new CardChecks(cards);
        findings.AddRange(cards.SelectMany(checks.Check));
        findings.AddRange(cards.SelectMany(card => ArtifactChecks.Pictures(request.Cards, card)));
        if (request.WithArtifacts)
        {
            var programs = new ProgramCheck(host.SystemRoot, host.SearchPath, new SystemPackages(host.SystemRoot));
            var shelf = new TemporaryShelf(request.Cards, cards.Select(card => card.Card));
            var artifacts = new ArtifactChecks(request.Cards, programs, shelf);
            foreach (var (at, card) in cards.Index())
            {
                request.Progress("checking artifacts of cards", at, cards.Count);
                findings.AddRange(await artifacts.RunAsync(card, IsPublished, cancel));
            }
        }

        return [.. findings.Where(finding => finding.IsFault && !IsCopied(finding.Key))];

        // Size and digest are looked at where the file is copied.
        static bool IsCopied(string key) => key.EndsWith(".location", StringComparison.Ordinal)
            || key.EndsWith(".download_size", StringComparison.Ordinal) || key.EndsWith(".sha256", StringComparison.Ordinal);

        bool IsPublished(Artifact artifact) =>
            new FileInfo(Path.Combine(request.Target, artifact.Location.Text)) is { Exists: true } file
                && file.Length == artifact.DownloadSize;
    }

    /// <summary>The folders to look at, each with the wanted cards; null for all.</summary>
    private Dictionary<string, HashSet<string>?> Folders(IReadOnlyList<string> places)
    {
        var folders = new Dictionary<string, HashSet<string>?>(StringComparer.Ordinal);
        foreach (var place in places)
        {
            var path = session.Host.FullPath(place);
            if (Directory.Exists(path)) folders[path] = null;
            else if (!File.Exists(path))
                throw new Problem(ProblemCode.NothingMatched, $"there is no card or folder {place}").ToException();
            else if (folders.TryGetValue(Path.GetDirectoryName(path)!, out var wanted)) wanted?.Add(Path.GetFileName(path));
            else folders[Path.GetDirectoryName(path)!] = new(StringComparer.Ordinal) { Path.GetFileName(path) };
        }

        return folders;
    }

    private static (List<CheckedCard> Cards, int Files) Read(
        string folder, HashSet<string>? only, List<CardFinding> findings)
    {
        var (cards, files, byId) = (new List<CheckedCard>(), 0, new Dictionary<AppId, string>());
        foreach (var path in new CardFolder(folder).FindCards().Order(StringComparer.Ordinal))
        {
            var (file, faults) = (Path.GetRelativePath(folder, path), new List<FormatFault>());
            var isWanted = only is null || only.Contains(file);
            if (isWanted) files++;
            var text = TextFile.Read(path, file, faults);
            var card = faults.Count == 0 ? CardReader.Read(text, file, faults) : null;
            if (card is not null && TomlText.Read(text, file, faults) is { } root)
            {
                if (!byId.TryAdd(card.Id, file) && isWanted)
                    findings.Add(new CardFinding(file, 1, "id", $"{byId[card.Id]} has the id {card.Id} too", IsFault: true));
                cards.Add(new CheckedCard(file, card, root));
            }

            if (isWanted)
                findings.AddRange(faults.Select(CardHints.With)
                    .Select(fault => new CardFinding(fault.File, fault.Line, fault.Key, fault.Message, IsFault: true)));
        }

        if (files == 0)
            throw new Problem(
                ProblemCode.NothingMatched, $"{folder} holds no app cards", $"no file in it ends in {AppCard.FileEnding}")
                .ToException();
        return (cards, files);
    }

    private string SystemRoot(string? baseSystem) =>
        baseSystem is null ? session.Host.SystemRoot : session.Host.FullPath(baseSystem);

    private ProgramCheck Programs(string? baseSystem)
    {
        var root = SystemRoot(baseSystem);
        return Directory.Exists(root)
            ? new ProgramCheck(root, session.Host.SearchPath, new SystemPackages(root))
            : throw new Problem(ProblemCode.NothingMatched, $"there is no folder {baseSystem}").ToException();
    }

    /// <summary>Whether the addresses of a card still give what it says.</summary>
    private async Task<IReadOnlyList<CardFinding>> ReachAsync(CheckedCard card, CancellationToken cancel)
    {
        var findings = new List<CardFinding>();
        foreach (var artifact in card.Card.Releases.SelectMany(release => release.Artifacts))
        {
            foreach (var address in artifact.Mirrors.Prepend(artifact.Location).Select(place => place.Absolute).OfType<Uri>())
            {
                if (await AnswerAsync(address, artifact, cancel) is { } fault)
                    findings.Add(card.Finding("releases", $"{address}: {fault}", isFault: true));
            }
        }

        return findings;
    }

    private async Task<string?> AnswerAsync(Uri address, Artifact artifact, CancellationToken cancel)
    {
        using var folderOfWork = WorkFolder.Make("reach");
        var work = folderOfWork.Path;
        try
        {
            using var network = new HttpSource(session.Settings.NetworkTimeout, session.Host, session.Request.IsOffline);
            using var content = await new SchemeSource(new FileSource(), network)
                .OpenAsync(new FetchRequest(address) { WholeLength = artifact.DownloadSize }, cancel);
            _ = await VerifiedFile.ReceiveAsync(
                content!.Stream, Path.Combine(work, "file"), artifact.DownloadSize, artifact.Sha256, cancel);
            return null;
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault) || SourceFault.IsOfSource(fault))
        {
            var problem = IoProblems.ToProblem(fault, "it does not answer");
            return problem.Why.Length > 0 ? $"{problem.What} ({problem.Why})" : problem.What;
        }
    }
}
