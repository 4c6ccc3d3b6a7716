using AmberCrate.Core.Cards;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Searching;

/// <summary>
/// The releases of an app that are the newest of their line on some platform: all that it takes to say which version a
/// machine would get, without the card. Kept as text: a release a line, with version, release line and platforms, each platform
/// with the beginning of the digest of its delivery after a <c>=</c>.
/// </summary>
public static class NewestReleases
{
    private const int DigestKept = 16;

    /// <summary>Picks them from a card.</summary>
    public static string Format(AppCard card)
    {
        var seen = new HashSet<(ReleaseLine, Platform)>();
        var lines = new List<string>();
        foreach (var release in card.Releases.Where(release => release.Withdrawn is null))
        {
            var platforms = release.Deliveries
                .Where(delivery => seen.Add((release.Line, delivery.Platform)))
                .Select(delivery => $"{delivery.Platform}={delivery.Sha256.Hex[..DigestKept]}")
                .ToList();
            if (platforms.Count > 0) lines.Add($"{release.Version} {release.Line} {string.Join(' ', platforms)}");
        }

        return string.Join('\n', lines);
    }

    /// <summary>
    /// The version that a machine would get without a <c>@</c>; null where none fits. The same as <see
    /// cref="AppCard.ReleasesFor"/> finds.
    /// </summary>
    /// <param name="kept">What <see cref="Format"/> has made.</param>
    /// <param name="machine">The machine's platform.</param>
    public static string? VersionFor(string kept, Platform machine)
    {
        string? newest = null;
        foreach (var line in kept.Split('\n'))
        {
            var words = line.Split(' ');
            if (!words.Skip(2).Any(word => PlatformIn(word)?.RunsOn(machine) == true)) continue;
            if (words[1] == ReleaseLine.Stable.Name) return words[0];
            newest ??= words[0];
        }

        return newest;
    }

    /// <summary>
    /// Whether a machine has the newest stable release already, with the file that is offered for it. False also where it takes
    /// the card to tell: where something newer is there for other machines, or on other lines only.
    /// </summary>
    /// <param name="kept">What <see cref="Format"/> has made.</param>
    /// <param name="machine">The machine's platform.</param>
    /// <param name="version">The installed version, of the stable line.</param>
    /// <param name="sha256">The digest of its file; null where any will do.</param>
    public static bool IsNewest(string kept, Platform machine, AppVersion version, Sha256Digest? sha256)
    {
        foreach (var line in kept.Split('\n'))
        {
            var words = line.Split(' ');
            if (words.Length < 3 || words[1] != ReleaseLine.Stable.Name) continue;
            if (words[0] != version.Text) return false;
            var best = words.Skip(2).Where(word => PlatformIn(word)?.RunsOn(machine) == true)
                .MinBy(word => PlatformIn(word)!.OpenParts);
            return best is not null
                && (sha256 is null || sha256.Hex.StartsWith(best[(best.IndexOf('=') + 1)..], StringComparison.Ordinal));
        }

        return false;
    }

    private static Platform? PlatformIn(string word) =>
        Platform.TryParse(word[..Math.Max(0, word.IndexOf('=', StringComparison.Ordinal))], out var platform) ? platform : null;
}
