namespace AmberCrate.Core.Cards;

/// <summary>Rules that join several values of a card, checked alike for cards that people wrote and for catalogues.</summary>
public static class CardRules
{
    /// <summary>The rules that a card breaks, each with the key at fault and what was expected.</summary>
    public static IEnumerable<(string Key, string Message)> Broken(AppCard card)
    {
        if (card.Releases.Count == 0) yield return ("releases", "expected at least one release");
        foreach (var (release, index) in card.Releases.Select((release, index) => (release, index + 1)))
        {
            if (card.Releases.Take(index - 1).Any(earlier => earlier.Version == release.Version))
                yield return ($"releases[{index}].version", $"expected each version once, found {release.Version} again");
            foreach (var fault in BrokenBy(release, $"releases[{index}]")) yield return fault;
            if (release.Placement is { } own)
            {
                foreach (var fault in BrokenBy(own, $"releases[{index}].place")) yield return fault;
            }
        }

        foreach (var fault in BrokenBy(card.Placement, "place")) yield return fault;
    }

    private static IEnumerable<(string Key, string Message)> BrokenBy(Release release, string path)
    {
        if (release.Artifacts.Count == 0) yield return ($"{path}.artifacts", "expected at least one artifact");
        foreach (var (artifact, index) in release.Artifacts.Select((artifact, index) => (artifact, index + 1)))
        {
            var here = $"{path}.artifacts[{index}]";
            if (release.Artifacts.Take(index - 1).Any(earlier => earlier.Platform == artifact.Platform))
                yield return ($"{here}.platform", $"expected one artifact a platform, found {artifact.Platform} again");
            if (artifact.Form != ArtifactForm.Executable && artifact.FileName is not null)
                yield return ($"{here}.filename", "expected only where form is \"executable\"");
            if (artifact.Form == ArtifactForm.Executable && artifact.StripFolders > 0)
                yield return ($"{here}.strip", "expected only where form is an archive");
            if (artifact.Form == ArtifactForm.Executable && !FileName.TryParse(artifact.ShelfFileName, out _))
                yield return ($"{here}.filename", "expected a file name, since the location does not end in one");
        }
    }

    private static IEnumerable<(string Key, string Message)> BrokenBy(Placement place, string path)
    {
        foreach (var (list, names) in new[]
        {
            ("commands", place.Commands.Select(command => command.Name.Text)),
            ("desktop_entries", place.DesktopEntries.Select(entry => entry.Name.Text)),
            ("icons", place.Icons.Select(icon => $"{icon.Size}/{icon.Name}")),
        })
        {
            foreach (var twice in names.GroupBy(name => name).Where(group => group.Count() > 1))
                yield return ($"{path}.{list}", $"expected each name once, found \"{twice.Key}\" again");
        }

        foreach (var (entry, index) in place.DesktopEntries.Select((entry, index) => (entry, index + 1)))
        {
            if (place.Commands.All(command => command.Name != entry.Command))
                yield return ($"{path}.desktop_entries[{index}].command", $"expected the name of one of this app's commands, found \"{entry.Command}\"");
        }

        foreach (var (icon, index) in place.Icons.Select((icon, index) => (icon, index + 1)))
        {
            if (!IsIconSize(icon.Size))
                yield return ($"{path}.icons[{index}].size", $"expected \"scalable\", \"symbolic\" or a size such as \"48x48\", found \"{icon.Size}\"");
            if (!icon.Path.Text.EndsWith(icon.Size is "scalable" or "symbolic" ? ".svg" : ".png", StringComparison.Ordinal))
                yield return ($"{path}.icons[{index}].path", "expected a .svg file for scalable and symbolic icons, a .png file for the others");
        }
    }

    private static bool IsIconSize(string size)
    {
        var sides = size.Split('x');
        return size is "scalable" or "symbolic"
            || (sides.Length == 2 && sides[0] == sides[1] && int.TryParse(sides[0], out var pixels) && pixels is >= 8 and <= 1024 && sides[0] == $"{pixels}");
    }
}
