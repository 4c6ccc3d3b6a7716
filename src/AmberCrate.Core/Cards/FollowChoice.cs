using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Cards;

/// <summary>Something that an app can follow other than the newest release of its own line.</summary>
/// <param name="Selector">What follows the <c>@</c> of a reference.</param>
/// <param name="Newest">The newest version that it accepts now.</param>
public sealed record FollowChoice(VersionSelector Selector, AppVersion Newest)
{
    private const int MostVersions = 20;

    /// <summary>
    /// What an app can follow: its other release lines, the series of its versions, and each of the newest versions by itself.
    /// What accepts only releases that are withdrawn is left out.
    /// </summary>
    public static IReadOnlyList<FollowChoice> ListFor(AppCard card)
    {
        var offered = card.Releases.Where(release => release.Withdrawn is null).ToList();
        if (offered.Count == 0) return [];
        var own = DefaultLineOf(offered);
        var lines = offered.Select(release => release.Line).Distinct().Where(line => line != own).Select(line => line.Name);
        var series = offered.SelectMany(release => SeriesOf(release.Version)).Distinct();
        var versions = offered.Take(MostVersions).Select(release => release.Version.Text);
        return
        [
            .. lines.Concat(series).Concat(versions)
                .Select(text => VersionSelector.TryParse(text, out var selector) ? selector : null).OfType<VersionSelector>()
                .Select(selector => (Selector: selector, Release: offered.Find(
                    release => selector.Accepts(release.Version, release.Line))))
                .Where(choice => choice.Release is not null)
                .Select(choice => new FollowChoice(choice.Selector, choice.Release!.Version)),
        ];
    }

    /// <summary>The release that an app has now if nothing is chosen; null where all are withdrawn.</summary>
    public static Release? NewestOf(AppCard card)
    {
        var offered = card.Releases.Where(release => release.Withdrawn is null).ToList();
        return offered.Count == 0 ? null : offered.Find(release => release.Line == DefaultLineOf(offered));
    }

    private static ReleaseLine DefaultLineOf(List<Release> offered) =>
        offered.Exists(release => release.Line == ReleaseLine.Stable) ? ReleaseLine.Stable : offered[0].Line;

    /// <summary>The series that a version belongs to: 4.x and 4.2.x of 4.2.1.</summary>
    private static IEnumerable<string> SeriesOf(AppVersion version) =>
        Enumerable.Range(1, Math.Clamp(version.LeadingNumbers.Count - 1, 0, 2))
            .Select(count => string.Join('.', version.LeadingNumbers.Take(count)) + ".x");
}
