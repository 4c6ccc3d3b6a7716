using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Searching;

/// <summary>
/// The releases of an app that are the newest of their line on some platform: all that it takes to tell which version a
/// machine would get, without the card. Kept as text: a release a line, with version, release line and platforms.
/// </summary>
public static class NewestReleases
{
    /// <summary>Picks them from a card.</summary>
    public static string Of(AppCard card)
    {
        var seen = new HashSet<(ReleaseLine, Platform)>();
        var lines = new List<string>();
        foreach (var release in card.Releases.Where(release => release.Withdrawn is null))
        {
            var platforms = release.Artifacts.Select(artifact => artifact.Platform)
                .Where(platform => seen.Add((release.Line, platform)))
                .ToList();
            if (platforms.Count > 0) lines.Add($"{release.Version} {release.Line} {string.Join(' ', platforms)}");
        }

        return string.Join('\n', lines);
    }

    /// <summary>
    /// The version that a machine would get where nothing is said behind the <c>@</c>; null where none fits. The same as <see
    /// cref="AppCard.ReleasesFor"/> finds.
    /// </summary>
    /// <param name="kept">What <see cref="Of"/> has made.</param>
    /// <param name="machine">The machine's platform.</param>
    public static string? VersionFor(string kept, Platform machine)
    {
        string? newest = null;
        foreach (var line in kept.Split('\n'))
        {
            var words = line.Split(' ');
            if (!words.Skip(2).Any(word => Platform.TryParse(word, out var platform) && platform.RunsOn(machine))) continue;
            if (words[1] == ReleaseLine.Stable.Name) return words[0];
            newest ??= words[0];
        }

        return newest;
    }
}
