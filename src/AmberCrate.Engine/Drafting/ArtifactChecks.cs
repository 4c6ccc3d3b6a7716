using AmberCrate.Core.Cards;
using AmberCrate.Core.Drafting;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Drafting;

/// <summary>
/// Checks of a card with its artifacts: digest and size, whether the archive unpacks, whether what the card places is in it, and
/// whether its programs would start on a system. Nothing of it is started.
/// </summary>
/// <param name="folder">The folder of cards.</param>
/// <param name="programs">Looks at programs, on the base system that was stated.</param>
/// <param name="shelf">Unpacks the apps that a card borrows from.</param>
internal sealed class ArtifactChecks(string folder, ProgramCheck programs, TemporaryShelf shelf)
{
    /// <summary>The libraries that cards lend to others, by the name that a program asks for.</summary>
    private readonly Dictionary<string, AppId> _lent = new(StringComparer.Ordinal);

    /// <summary>The libraries that the files of cards ask the system for.</summary>
    private readonly Dictionary<AppId, HashSet<string>> _asked = [];

    private const int MostNamed = 5;

    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    /// <summary>The faults of the artifacts of a card that are beside it.</summary>
    /// <param name="card">The card.</param>
    /// <param name="isChecked">Tells by its path whether an artifact has been checked before.</param>
    /// <param name="cancel">Cancels the operation.</param>
    public async Task<IReadOnlyList<CardFinding>> RunAsync(
        CheckedCard card, Func<Artifact, bool> isChecked, CancellationToken cancel)
    {
        var findings = new List<CardFinding>();
        foreach (var release in card.Card.Releases)
        {
            foreach (var delivery in release.Deliveries.Where(delivery => !delivery.Files.All(IsLeftOut)))
                await CheckAsync(card, release, delivery, findings, cancel);
        }

        return findings;

        bool IsLeftOut(Artifact artifact) => artifact.Location.Absolute is not null || isChecked(artifact);
    }

    /// <summary>The pictures of a card that should are beside it, and do not.</summary>
    /// <param name="folder">The folder of cards.</param>
    /// <param name="card">The card.</param>
    public static IEnumerable<CardFinding> Pictures(string folder, CheckedCard card) =>
        from picture in card.Card.Screenshots.Select(
            (shot, at) => (Path: shot.BesideCards, Key: $"screenshots[{at + 1}].address"))
        where picture.Path is not null && !File.Exists(Path.Combine(folder, picture.Path))
        select card.Finding(picture.Key, $"there is no file {picture.Path}", isFault: true);

    private async Task CheckAsync(
        CheckedCard card, Release release, Delivery delivery, List<CardFinding> findings, CancellationToken cancel)
    {
        var verified = new List<(Artifact Artifact, VerifiedFile File)>();
        foreach (var artifact in delivery.Files.Where(artifact => artifact.Location.Absolute is null))
        {
            var (file, fault) = await VerifyAsync(artifact, cancel);
            if (fault is var (key, message))
                findings.Add(card.Finding($"{KeyOf(card, release, artifact)}.{key}", message, isFault: true));
            else verified.Add((artifact, file!));
        }

        // What is placed can only be looked for where all of it is here.
        if (verified.Count == 0 || verified.Count < delivery.Files.Count || delivery.IsInstaller) return;
        using var folderOfWork = WorkFolder.Make("check");
        var (work, at) = (TemporaryShelf.MakeEntry(folderOfWork.Path, card.Card.Id), delivery.Files[0]);
        try
        {
            var unpacker = new Unpacker(work, cancel);
            foreach (var (artifact, file) in verified)
            {
                at = artifact;
                _ = unpacker.Add(PresentFile.FromVerified(file), artifact);
            }

            unpacker.End();
            var place = card.Card.PlacementOf(release);
            OwnFiles.Add(work, place);
            var obstacle = await shelf.UnpackLendersAsync(place.Borrows, folderOfWork.Path, cancel);
            if (obstacle is not null)
                findings.Add(card.Finding("place.borrows", $"what it borrows was not looked at: {obstacle}", isFault: false));
            findings.AddRange(Placed(card, place, $"{release.Version}", work));
            var contents = PackageReader.ReadUnpacked([.. verified.Select(one => (one.Artifact, one.File.Path))], work);
            var found = RequirementsOf(contents, release, work);
            NoteLibraries(card, found, work);
            if (obstacle is null) findings.AddRange(Required(card, release, found));
        }
        catch (ProblemException problem)
        {
            findings.Add(card.Finding(
                $"{KeyOf(card, release, at)}.format", $"{problem.Problem.What}: {problem.Problem.Why}", isFault: true));
        }
    }

    /// <summary>Verifies a file; a fault is returned as the key of the card and a sentence.</summary>
    private async Task<(VerifiedFile? File, (string Key, string Message)? Fault)> VerifyAsync(
        Artifact artifact, CancellationToken cancel)
    {
        var path = Path.Combine(folder, artifact.Location.Text);
        if (!File.Exists(path)) return (null, ("location", $"there is no file {artifact.Location}"));
        if (new FileInfo(path).Length is var length && length != artifact.DownloadSize)
            return (null, ("download_size", $"the file has {length} bytes, and not {artifact.DownloadSize}"));
        return await VerifiedFile.FindAsync(path, artifact.DownloadSize, artifact.Sha256, cancel) is { } verified
            ? (verified, null)
            : (null, ("sha256", "the file has another digest"));
    }

    /// <summary>Whether a file, or a folder above it, is a link: what is placed is opened without following any.</summary>
    private static bool IsBehindLink(string work, string path)
    {
        for (var at = path; at.Length > 0; at = Path.GetDirectoryName(at) ?? "")
        {
            if (new FileInfo(Path.Combine(work, at)).LinkTarget is not null) return true;
        }

        return false;
    }

    private IEnumerable<CardFinding> Placed(CheckedCard card, Placement place, string version, string work)
    {
        foreach (var (command, at) in place.Commands.Select((command, at) => (command, at + 1)))
        {
            if (!File.Exists(Path.Combine(work, command.Path.Text)))
                yield return card.Finding($"place.commands[{at}].path", $"{version} has no file {command.Path}", isFault: true);
        }

        var paths = place.DesktopEntries.Select((item, at) => ($"place.desktop_entries[{at + 1}].path", item.Path?.Text ?? ""))
            .Concat(place.Icons.Select((item, at) => ($"place.icons[{at + 1}].path", item.Path.Text)))
            .Concat(place.MimeTypes.Select((item, at) => ($"place.mime_types[{at + 1}].path", item.Path.Text)))
            .Concat(place.ManualPages.Select((item, at) => ($"place.manual_pages[{at + 1}].path", item.Path.Text)))
            .Concat(place.Completions.Select((item, at) => ($"place.completions[{at + 1}].path", item.Path.Text)))
            .Concat(place.Fonts.Select((item, at) => ($"place.fonts[{at + 1}].path", item.Path.Text)));
        foreach (var (key, path) in paths.Where(item => item.Item2.Length > 0))
        {
            if (!File.Exists(Path.Combine(work, path)))
                yield return card.Finding(key, $"{version} has no file {path}", isFault: true);
            else if (IsBehindLink(work, path))
                yield return card.Finding(
                    key, $"{path} of {version} is a link, or is behind one: name the file that it leads to", isFault: true);
        }

        foreach (var (command, at) in place.Commands.Select((command, at) => (command, at + 1)))
        {
            var file = Path.Combine(work, place.StartOf(command).Text);
            if (!File.Exists(file)) continue;
            foreach (var lacking in programs.Faults(command.Name.Text, file))
                yield return card.Finding($"place.commands[{at}]", $"{version}: {lacking}", isFault: false);
            foreach (var path in programs.Displaced(file, work))
                yield return card.Finding(
                    $"place.commands[{at}]",
                    $"{version}: {command.Name} names {path}, which will lie elsewhere: not sure that it starts", isFault: false);
        }

        foreach (var part in programs.Parts.FindMissing(work))
            yield return card.Finding(
                "place", $"{version} brings {part}, which an app cannot add to the system: not sure that all of it works",
                isFault: false);
        foreach (var finding in Entries(card, place, work)) yield return finding;
    }

    /// <summary>What the files expect of the system, without what the app borrows.</summary>
    private static List<SystemRequirement> RequirementsOf(PackageContents contents, Release release, string work)
    {
        var lenders = LauncherFile.FindLenders(work).Select(lender => lender.Folder).ToList();
        return [.. (new Drafter(contents, contents.FileName, release.Date).Requirements ?? [])
            .Where(requirement => !lenders.Exists(lender => Lends(lender, requirement)))];
    }

    /// <summary>Keeps the libraries that a card lends and those that it asks for, to compare the cards at the end.</summary>
    private void NoteLibraries(CheckedCard card, List<SystemRequirement> found, string work)
    {
        foreach (var library in LauncherFile.FoldersLent(work, OwnFolderKind.Libraries).Where(Directory.Exists)
            .SelectMany(Directory.EnumerateFiles)) _lent.TryAdd(Path.GetFileName(library), card.Card.Id);
        if (!_asked.TryGetValue(card.Card.Id, out var asked)) _asked[card.Card.Id] = asked = new(StringComparer.Ordinal);
        asked.UnionWith(found.Where(one => one.Kind == RequirementKind.Library).Select(one => one.Name));
    }

    /// <summary>What the files expect of the system, and the card does not say.</summary>
    private static IEnumerable<CardFinding> Required(CheckedCard card, Release release, List<SystemRequirement> found)
    {
        var stated = card.Card.RequirementsOf(release);
        var missing = RequirementCoverage.FindMissing(stated ?? [], found).Select(one => one.Words).ToList();
        if (missing.Count == 0) yield break;
        var more = missing.Count > MostNamed ? $" and {missing.Count - MostNamed} more" : "";
        var named = string.Join(", ", missing.Take(MostNamed)) + more;
        yield return card.Finding(
            "system",
            stated is null
                ? $"{release.Version} expects the system to have {named}, and the card does not say so"
                : $"{release.Version} expects the system to have {named}, which the card does not name",
            isFault: false);
    }

    /// <summary>Whether another app brings what is required.</summary>
    private static bool Lends(string lender, SystemRequirement requirement) => requirement.Kind switch
    {
        RequirementKind.Library => LauncherFile.FoldersLent(lender, OwnFolderKind.Libraries)
            .Any(folder => File.Exists(Path.Combine(folder, requirement.Name))),
        RequirementKind.Module => LauncherFile.FoldersLent(
                lender, requirement.Of == "perl" ? OwnFolderKind.Perl : OwnFolderKind.Python)
            .Select(folder => Path.Combine(
                folder, requirement.Name.Replace("::", ".", StringComparison.Ordinal).Replace('.', '/')))
            .Any(path => Directory.Exists(path) || File.Exists(path + ".py") || File.Exists(path + ".pm")),
        RequirementKind.Typelib => LauncherFile.FoldersLent(lender, OwnFolderKind.Typelibs)
            .Any(folder => Directory.Exists(folder) && Directory.EnumerateFiles(folder, $"{requirement.Name}*.typelib").Any()),
        _ => false,
    };

    /// <summary>Libraries that a card asks the system for, and that another of the checked cards lends.</summary>
    /// <param name="cards">The cards that have been checked.</param>
    public IEnumerable<CardFinding> ProposeLenders(IEnumerable<CheckedCard> cards) =>
        from card in cards
        from lent in (_asked.GetValueOrDefault(card.Card.Id) ?? []).Where(_lent.ContainsKey)
            .GroupBy(library => _lent[library]).OrderBy(app => app.Key)
        where lent.Key != card.Card.Id
        select card.Finding(
            "system",
            $"{string.Join(", ", lent.Order(StringComparer.Ordinal))} is in the app {lent.Key} of this folder: does this app "
                + $"need it, as needs = [\"{lent.Key}\"] and place.borrows = [\"{lent.Key}\"]?", isFault: false);

    /// <summary>What desktop-file-validate says of the entries as they will be placed, where the system has it.</summary>
    private static IEnumerable<CardFinding> Entries(CheckedCard card, Placement place, string work)
    {
        if (ProgramSearch.Trusted("desktop-file-validate") is not { } validator) yield break;
        foreach (var (entry, at) in place.DesktopEntries.Select((entry, at) => (entry, at + 1)))
        {
            var start = new DesktopEntryStart("/usr/bin/true", entry.Arguments ?? "", entry.Icon?.Text);
            var path = entry.Path is { } inside ? Path.Combine(work, inside.Text) : null;
            if (path is not null && (!File.Exists(path) || Posix.TypeOf(path) != Posix.FileType.Regular)) continue;
            var file = Path.Combine(work, $".{entry.Name}.desktop");
            File.WriteAllText(file, path is null
                ? DesktopEntryText.Compose(card.Card, start)
                : DesktopEntryText.Adapt(File.ReadAllText(path), start));
            var answer = SystemProgram.Ask(validator, ["--no-hints", file], Patience);


            // Translations of two keys that are the same, as the validator says of each language, do no harm.
            foreach (var line in (answer.Output + answer.Errors).Split('\n', StringSplitOptions.RemoveEmptyEntries)
                .Where(line => !line.Contains("looks the same as that of key", StringComparison.Ordinal)))
                yield return card.Finding(
                    $"place.desktop_entries[{at}]", line.Replace(file, entry.Name.Text, StringComparison.Ordinal).Trim(),
                    isFault: false);
        }
    }

    /// <summary>The key of an artifact, by its place in the file: the card has its releases in another order.</summary>
    private static string KeyOf(CheckedCard card, Release release, Artifact artifact)
    {
        if (card.Root.Entries.GetValueOrDefault("releases") is not Core.Toml.TomlArray { Items: var items }) return "releases";
        var at = Enumerable.Range(0, items.Count).FirstOrDefault(index => items[index] is Core.Toml.TomlTable table
            && table.Entries.GetValueOrDefault("version") is Core.Toml.TomlString said && said.Value == release.Version.Text);
        return $"releases[{at + 1}].artifacts[{release.Artifacts.ToList().IndexOf(artifact) + 1}]";
    }
}
