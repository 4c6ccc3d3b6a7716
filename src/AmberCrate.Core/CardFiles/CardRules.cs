using AmberCrate.Core.Cards;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.CardFiles;

/// <summary>Rules that join several values of a card, checked for cards that people wrote and for catalogues.</summary>
public static class CardRules
{
    /// <summary>The rules that a card breaks, each with the key at fault and what was expected.</summary>
    public static IEnumerable<(string Key, string Message)> Broken(AppCard card)
    {
        if (card.Releases.Count == 0) yield return ("releases", "expected at least one release");
        var versions = new HashSet<AppVersion>();
        for (var at = 0; at < card.Releases.Count; at++)
        {
            var release = card.Releases[at];
            if (!versions.Add(release.Version))
                yield return ($"releases[{at + 1}].version", $"expected each version once, found {release.Version} again");
            foreach (var (key, message) in BrokenBy(release)) yield return ($"releases[{at + 1}].{key}", message);
            foreach (var (key, message) in BrokenBy(release.Requirements))
                yield return ($"releases[{at + 1}].{key}", message);
            foreach (var stranger in card.PlacementOf(release).Borrows.Where(
                id => id == card.Id || card.NeedsOf(release).All(need => need.Id != id)))
                yield return (release.Placement is null ? "place.borrows" : $"releases[{at + 1}].place.borrows",
                    $"expected apps of needs, found \"{stranger}\"");
            if (release.Placement is null) continue;
            foreach (var (key, message) in BrokenBy(release.Placement)) yield return ($"releases[{at + 1}].place{key}", message);
        }

        foreach (var found in BrokenBy(card.Requirements)) yield return found;
        foreach (var (key, message) in BrokenBy(card.Placement)) yield return ($"place{key}", message);
        if (card.Id.Text != CommandNameRule.Own && card.Releases.Select(release => release.Placement).Append(card.Placement)
            .Any(place => place?.Commands.Any(command => command.Name.Text == CommandNameRule.Own) == true))
            yield return ("place.commands", $"expected no command {CommandNameRule.Own}, which is that of this program");
        foreach (var twice in card.Translations.GroupBy(text => text.Language).Where(texts => texts.Count() > 1))
            yield return ("translations", $"expected each language once, found \"{twice.Key}\" again");
        if (card.VersionSource is not { } source) yield break;
        if (source is { File: null, Command: null, DesktopEntry: null })
            yield return ("version_source", "expected one of file, command and desktop_entry");
        if (source.Command is null && source.Arguments.Count > 0)
            yield return ("version_source.arguments", "expected only where there is a command");
    }

    /// <summary>The card with its releases in order, the newest first; the same card where they were.</summary>
    public static AppCard NewestFirst(AppCard card)
    {
        for (var at = 1; at < card.Releases.Count; at++)
        {
            if (card.Releases[at].Version.CompareTo(card.Releases[at - 1].Version) > 0)
                return card with { Releases = [.. card.Releases.OrderByDescending(release => release.Version)] };
        }

        return card;
    }

    private static IEnumerable<(string Key, string Message)> BrokenBy(Release release)
    {
        if (release.Artifacts.Count == 0) yield return ("artifacts", "expected at least one artifact");
        for (var at = 0; at < release.Artifacts.Count; at++)
        {
            var artifact = release.Artifacts[at];
            for (var earlier = 0; earlier < at; earlier++)
            {
                if (release.Artifacts[earlier].Platform == artifact.Platform
                    && BrokenBeside(release.Artifacts[earlier], artifact) is var (key, expected))
                    yield return ($"artifacts[{at + 1}].{key}", expected);
            }

            if (artifact.Format == ArtifactFormat.Installer && artifact.Installer is null)
                yield return ($"artifacts[{at + 1}].installer", "expected where format is \"installer\"");
            if (artifact.Format != ArtifactFormat.Installer && artifact.Installer is not null)
                yield return ($"artifacts[{at + 1}].installer", "expected only where format is \"installer\"");
            if (!artifact.IsSingleFile)
            {
                if (artifact.FileName is not null)
                    yield return ($"artifacts[{at + 1}].filename", "expected only where format is a single file");
                continue;
            }

            if (artifact.Format == ArtifactFormat.AppImage && artifact.ShelfFileName == Artifact.LauncherName)
                yield return ($"artifacts[{at + 1}].filename", $"expected another name than \"{Artifact.LauncherName}\", which "
                    + $"is the launcher beside an AppImage");
            if (artifact.StripFolders > 0)
                yield return ($"artifacts[{at + 1}].strip", "expected only where format is an archive");
            if (!FileName.TryParse(artifact.ShelfFileName, out _))
                yield return ($"artifacts[{at + 1}].filename", "expected a file name, since the location does not end in one");
        }
    }

    /// <summary>Why two artifacts of a release cannot be put into one shelf entry; null where they can.</summary>
    private static (string Key, string Message)? BrokenBeside(Artifact earlier, Artifact later)
    {
        if (earlier.Format == ArtifactFormat.Installer || later.Format == ArtifactFormat.Installer)
            return ("format", $"expected an installer to be the only artifact for {later.Platform}");
        if (earlier.Format == ArtifactFormat.AppImage && later.Format == ArtifactFormat.AppImage)
            return ("format", $"expected one AppImage at most for {later.Platform}");
        if (earlier.Sha256 == later.Sha256) return ("sha256", $"expected each file once for {later.Platform}");
        return earlier.IsSingleFile && later.IsSingleFile && earlier.ShelfFileName == later.ShelfFileName
            ? ("filename", $"expected each file name once for {later.Platform}, found \"{later.ShelfFileName}\" again")
            : null;
    }

    private static IEnumerable<(string Key, string Message)> BrokenBy(IReadOnlyList<SystemRequirement>? requirements)
    {
        for (var at = 0; at < requirements?.Count; at++)
        {
            var (requirement, key) = (requirements[at], $"{RequirementKeys.Name}[{at + 1}]");
            if (requirement.Fault is { } expected)
                yield return ($"{key}.name", $"expected {expected}, found \"{requirement.Name}\"");
            if ((requirement.Kind == RequirementKind.Module && requirement.Of is not ("python3" or "perl"))
                || (requirement.Of is not null && requirement.Kind != RequirementKind.Module))
                yield return ($"{key}.of", "expected \"python3\" or \"perl\" for a module, and nothing for everything else");
            if (requirement.Least is { } least
                && (requirement.Kind != RequirementKind.Interpreter || !SystemRequirement.IsLeast(least)))
                yield return ($"{key}.least", "expected up to four numbers joined by dots, and only for an interpreter");
            if (requirement.Symbols.Count > 0 && requirement.Kind != RequirementKind.Library)
                yield return ($"{key}.symbols", "expected only for a library");
            if (requirement is { Kind: RequirementKind.Package, Deb.Count: 0, Rpm.Count: 0, Pacman.Count: 0 })
                yield return (key, "expected the package's name for one family at least, as deb, rpm or pacman");
        }
    }

    private static IEnumerable<(string Key, string Message)> BrokenByLauncher(Placement place)
    {
        foreach (var folder in place.Folders.SelectMany(folders => folders.Paths))
        {
            if (folder.Text.Contains(':', StringComparison.Ordinal))
                yield return (".folders",
                    $"expected folders without a colon, which parts them in a variable, found \"{folder}\"");
        }

        foreach (var twice in place.Borrows.GroupBy(app => app).Where(group => group.Count() > 1))
            yield return (".borrows", $"expected each app once, found \"{twice.Key}\" again");
        if (place.Mapped.Count + place.Borrows.Count > 0 && place.Commands.Count == 0)
            yield return (place.Mapped.Count > 0 ? ".mapped" : ".borrows", "expected only where the app has commands");
        foreach (var path in place.Mapped.Where(path => !MappedPath.IsValid(path)
            || place.Mapped.Any(other => path.Text.StartsWith(other.Text + "/", StringComparison.Ordinal))))
            yield return (".mapped", $"expected {MappedPath.Expected}, found \"{path}\"");
        if (place is { Mapped.Count: > 0, Check: not null })
            yield return (".check", "expected only without mapped: a mapped start cannot be confined");
    }

    private static IEnumerable<(string Key, string Message)> BrokenBy(Placement place)
    {
        foreach (var (list, names) in new[]
        {
            ("commands", place.Commands.Select(command => command.Name.Text)),
            ("desktop_entries", place.DesktopEntries.Select(entry => entry.Name.Text)),
            ("icons", place.Icons.Select(icon => $"{icon.Size}/{icon.Name}")),
            ("mime_types", place.MimeTypes.Select(file => file.Name.Text)),
            ("manual_pages", place.ManualPages.Select(file => file.Name.Text)),
            ("completions", place.Completions.Select(
                completion => $"{ShellWords.Shells.WordOf(completion.Shell)} {completion.Command}")),
            ("fonts", place.Fonts.Select(file => file.Name.Text)),
            ("autostart", place.Autostart.Select(entry => entry.Name.Text)),
        })
        {
            foreach (var twice in names.GroupBy(name => name).Where(group => group.Count() > 1))
                yield return ($".{list}", $"expected each name once, found \"{twice.Key}\" again");
        }

        foreach (var (list, index, started) in place.DesktopEntries
            .Select((entry, index) => ("desktop_entries", index, entry.Command))
            .Concat(place.Completions.Select((completion, index) => ("completions", index, completion.Command)))
            .Concat(place.Check is null ? [] : [("check", -1, place.Check.Command)])
            .Concat(place.Autostart.Select((entry, index) => ("autostart", index, entry.Command))))
        {
            if (place.Commands.All(command => command.Name != started))
                yield return (index < 0
                    ? $".{list}.command"
                    : $".{list}[{index + 1}].command", $"expected the name of one of this app's commands, found \"{started}\"");
        }

        foreach (var found in BrokenByLauncher(place)) yield return found;
        foreach (var (page, index) in place.ManualPages.Select((page, index) => (page, index + 1)))
        {
            if (ManualPageName.SectionOf(page.Name) is null)
                yield return ($".manual_pages[{index}].name", $"expected a name that ends in its section, such as "
                    + $"\"scrim-paint.1\" or \"scrim-paint.1.gz\", found \"{page.Name}\"");
        }

        foreach (var (icon, index) in place.Icons.Select((icon, index) => (icon, index + 1)))
        {
            if (!IsIconSize(icon.Size))
                yield return ($".icons[{index}].size", $"expected \"scalable\", \"symbolic\" or a size such as \"48x48\", "
                    + $"found \"{icon.Size}\"");
            if (!icon.Path.Text.EndsWith(icon.Size is "scalable" or "symbolic" ? ".svg" : ".png", StringComparison.Ordinal))
                yield return ($".icons[{index}].path", "expected a .svg file for scalable and symbolic icons, a .png file for "
                    + "the others");
        }
    }

    private static bool IsIconSize(string size)
    {
        // The Icon Theme specification: 48x48, or 48x48@2 for screens of twice the density.
        var parts = size.Split('@');
        var sides = parts[0].Split('x');
        return size is "scalable" or "symbolic"
            || (parts.Length <= 2 && (parts.Length == 1 || parts[1] is "2" or "3" or "4")
                && sides.Length == 2 && sides[0] == sides[1] && int.TryParse(
                    sides[0], out var pixels) && pixels is >= 8 and <= 1024 && sides[0] == $"{pixels}");
    }
}
