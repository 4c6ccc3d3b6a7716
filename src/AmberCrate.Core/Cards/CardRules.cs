using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Cards;

/// <summary>Rules that join several values of a card, checked alike for cards that people wrote and for catalogues.</summary>
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
            if (!versions.Add(release.Version)) yield return ($"releases[{at + 1}].version", $"expected each version once, found {release.Version} again");
            foreach (var (key, message) in BrokenBy(release)) yield return ($"releases[{at + 1}].{key}", message);
            if (release.Placement is null) continue;
            foreach (var (key, message) in BrokenBy(release.Placement)) yield return ($"releases[{at + 1}].place{key}", message);
        }

        foreach (var (key, message) in BrokenBy(card.Placement)) yield return ($"place{key}", message);
    }

    private static IEnumerable<(string Key, string Message)> BrokenBy(Release release)
    {
        if (release.Artifacts.Count == 0) yield return ("artifacts", "expected at least one artifact");
        for (var at = 0; at < release.Artifacts.Count; at++)
        {
            var artifact = release.Artifacts[at];
            for (var earlier = 0; earlier < at; earlier++)
            {
                if (release.Artifacts[earlier].Platform == artifact.Platform) yield return ($"artifacts[{at + 1}].platform", $"expected one artifact a platform, found {artifact.Platform} again");
            }

            if (artifact.Form != ArtifactForm.Executable)
            {
                if (artifact.FileName is not null) yield return ($"artifacts[{at + 1}].filename", "expected only where form is \"executable\"");
                continue;
            }

            if (artifact.StripFolders > 0) yield return ($"artifacts[{at + 1}].strip", "expected only where form is an archive");
            if (!FileName.TryParse(artifact.ShelfFileName, out _)) yield return ($"artifacts[{at + 1}].filename", "expected a file name, since the location does not end in one");
        }
    }

    private static IEnumerable<(string Key, string Message)> BrokenBy(Placement place)
    {
        foreach (var (list, names) in new[]
        {
            ("commands", place.Commands.Select(command => command.Name.Text)),
            ("desktop_entries", place.DesktopEntries.Select(entry => entry.Name.Text)),
            ("icons", place.Icons.Select(icon => $"{icon.Size}/{icon.Name}")),
        })
        {
            foreach (var twice in names.GroupBy(name => name).Where(group => group.Count() > 1))
                yield return ($".{list}", $"expected each name once, found \"{twice.Key}\" again");
        }

        foreach (var (entry, index) in place.DesktopEntries.Select((entry, index) => (entry, index + 1)))
        {
            if (place.Commands.All(command => command.Name != entry.Command))
                yield return ($".desktop_entries[{index}].command", $"expected the name of one of this app's commands, found \"{entry.Command}\"");
        }

        foreach (var (icon, index) in place.Icons.Select((icon, index) => (icon, index + 1)))
        {
            if (!IsIconSize(icon.Size))
                yield return ($".icons[{index}].size", $"expected \"scalable\", \"symbolic\" or a size such as \"48x48\", found \"{icon.Size}\"");
            if (!icon.Path.Text.EndsWith(icon.Size is "scalable" or "symbolic" ? ".svg" : ".png", StringComparison.Ordinal))
                yield return ($".icons[{index}].path", "expected a .svg file for scalable and symbolic icons, a .png file for the others");
        }
    }

    private static bool IsIconSize(string size)
    {
        var sides = size.Split('x');
        return size is "scalable" or "symbolic"
            || (sides.Length == 2 && sides[0] == sides[1] && int.TryParse(sides[0], out var pixels) && pixels is >= 8 and <= 1024 && sides[0] == $"{pixels}");
    }
}
