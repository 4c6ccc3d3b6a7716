using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Comparing;

/// <summary>Compares the wanted with the actual state.</summary>
/// <param name="Wanted">The wanted state.</param>
/// <param name="There">The actual state.</param>
/// <param name="Differences">What differs, the worst first, and then by app; an app may differ in several ways.</param>
/// <param name="Same">How many apps are the same on both sides.</param>
public sealed record Comparison(
    ComparedSide Wanted, ComparedSide There, IReadOnlyList<Difference> Differences, int Same)
{
    /// <summary>Compares two sides.</summary>
    /// <param name="wanted">The wanted state.</param>
    /// <param name="there">The actual state.</param>
    public static Comparison Compare(ComparedSide wanted, ComparedSide there)
    {
        var here = new Dictionary<string, ComparedApp>(there.Apps.Count, StringComparer.Ordinal);
        foreach (var app in there.Apps) here.TryAdd(app.Name, app);
        var differences = new List<Difference>();
        var same = 0;
        foreach (var app in wanted.Apps)
        {
            var before = differences.Count;
            if (here.Remove(app.Name, out var other)) differences.AddRange(Between(app, other));
            else differences.Add(new Difference(DifferenceKind.Missing, app, null, WordsOf(app)));
            if (differences.Count == before) same++;
        }

        // A dependency that nobody chose is there for an app that is; it is compared where it is wanted, and counts for nothing.
        foreach (var app in here.Values)
        {
            if (app.Damage is { } damage) differences.Add(new Difference(DifferenceKind.Damaged, null, app, damage));
            else if (!app.IsDependency) differences.Add(new Difference(DifferenceKind.OnlyThere, null, app, WordsOf(app)));
        }

        return new Comparison(
            wanted, there,
            [.. differences.OrderBy(one => one.Kind).ThenBy(one => one.App, StringComparer.Ordinal)], same);
    }

    private static IEnumerable<Difference> Between(ComparedApp wanted, ComparedApp there)
    {
        if (there.Damage is { } damage) yield return new Difference(DifferenceKind.Damaged, wanted, there, damage);
        if (wanted.Catalogue is { } catalogue && there.Catalogue is { } from && catalogue != from)
            yield return new Difference(DifferenceKind.OtherCatalogue, wanted, there, $"from {from}, not {catalogue}");
        if (VersionBetween(wanted, there) is { } version) yield return version;
        else if (wanted.Sha256 is { } digest && there.Sha256 is { } its && digest != its)
            yield return new Difference(DifferenceKind.OtherFile, wanted, there, $"{there.Version} made of another file");
        if (!Equals(wanted.Pin?.Selector, there.Pin?.Selector))
            yield return new Difference(
                DifferenceKind.OtherPin, wanted, there, $"{PinWords(there)}, not {PinWords(wanted)}");
        var options = string.Join("; ", OptionsBetween(wanted, there));
        if (options.Length > 0) yield return new Difference(DifferenceKind.OtherOptions, wanted, there, options);
    }

    private static Difference? VersionBetween(ComparedApp wanted, ComparedApp there)
    {
        if (wanted.Version is { } version && there.Version is { } its)
        {
            return version == its ? null : new Difference(
                its < version ? DifferenceKind.Older : DifferenceKind.Newer, wanted, there, $"{its}, not {version}");
        }

        // Without a version, what the entry follows must fit; which line a release belongs to is not known of every side.
        if (wanted.Version is not null || wanted.Follows is not { } follows || there.Version is not { } found) return null;
        if (follows is VersionSelector.OfLine && there.Line is null) return null;
        return follows.Accepts(found, there.Line ?? ReleaseLine.Stable)
            ? null
            : new Difference(DifferenceKind.Older, wanted, there, $"{found}, which is not @{follows}");
    }

    private static IEnumerable<string> OptionsBetween(ComparedApp wanted, ComparedApp there)
    {
        if (!Equals(wanted.Follows, there.Follows))
            yield return there.Follows is null ? $"does not follow @{wanted.Follows}"
                : wanted.Follows is null ? $"follows @{there.Follows}" : $"follows @{there.Follows}, not @{wanted.Follows}";
        if (!wanted.InstallerArguments.SequenceEqual(there.InstallerArguments, StringComparer.Ordinal))
            yield return $"its installer was given \"{string.Join(' ', there.InstallerArguments)}\", not "
                + $"\"{string.Join(' ', wanted.InstallerArguments)}\"";
        if (!Equals(wanted.Platform, there.Platform))
            yield return $"for {there.Platform?.ToString() ?? "the machine's own platform"}, not "
                + $"{wanted.Platform?.ToString() ?? "the machine's own"}";
    }

    private static string PinWords(ComparedApp app) => app.Pin is { } pin ? $"pinned to @{pin.Selector}" : "not pinned";

    private static string WordsOf(ComparedApp app) => app.Version?.Text ?? (app.Follows is { } follows ? $"@{follows}" : "");
}
