using System.Diagnostics.CodeAnalysis;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Versions;

/// <summary>Says which releases of an app a user accepts: the part of a reference behind the <c>@</c>.</summary>
public abstract record VersionSelector
{
    /// <summary>What a selector must look like, for messages.</summary>
    public const string Expected = "an exact version (4.2.0), a series (4.2.x), a range (4..5, 4.., ..5) or a release line (lts)";

    private VersionSelector()
    {
    }

    /// <summary>Whether releases of this version and line are accepted.</summary>
    public abstract bool Accepts(AppVersion version, ReleaseLine line);

    /// <summary>Reads a selector. One that begins with a digit or <c>..</c> is about versions, any other names a line.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out VersionSelector? selector)
    {
        selector = text.Length > 0 && (char.IsAsciiDigit(text[0]) || text.StartsWith("..", StringComparison.Ordinal))
            ? ReadVersions(text)
            : ReleaseLine.TryParse(text, out var line) ? new OfLine(line) : null;
        return selector is not null;
    }

    /// <summary>Reads a selector.</summary>
    /// <exception cref="MalformedException">The text is not a selector.</exception>
    public static VersionSelector Parse(string text) =>
        TryParse(text, out var selector) ? selector : throw new MalformedException($"expected {Expected}, found \"{text}\"");

    private static VersionSelector? ReadVersions(string text)
    {
        var dots = text.IndexOf("..", StringComparison.Ordinal);
        if (dots >= 0) return ReadRange(text[..dots], text[(dots + 2)..]);
        if (text.EndsWith(".x", StringComparison.Ordinal))
            return AppVersion.TryParse(text[..^2], out var series) && IsNumbersOnly(series) ? new Series(series) : null;
        return AppVersion.TryParse(text, out var version) ? new Exactly(version) : null;
    }

    private static Range? ReadRange(string from, string below)
    {
        AppVersion? first = null, end = null;
        if (from.Length > 0 && !AppVersion.TryParse(from, out first)) return null;
        if (below.Length > 0 && !AppVersion.TryParse(below, out end)) return null;
        if (first is null && end is null) return null;
        return first is not null && end is not null && first >= end ? null : new Range(first, end);
    }

    private static bool IsNumbersOnly(AppVersion version) => version.Text.All(c => char.IsAsciiDigit(c) || c == '.');

    /// <summary>Exactly one version, pre-releases included.</summary>
    public sealed record Exactly(AppVersion Version) : VersionSelector
    {
        /// <inheritdoc/>
        public override bool Accepts(AppVersion version, ReleaseLine line) => version == Version;

        /// <inheritdoc/>
        public override string ToString() => Version.Text;
    }

    /// <summary>Every finished release whose leading numbers begin with these: <c>4.2.x</c>.</summary>
    public sealed record Series(AppVersion Start) : VersionSelector
    {
        /// <inheritdoc/>
        public override bool Accepts(AppVersion version, ReleaseLine line) =>
            !version.IsPreRelease
            && version.LeadingNumbers.Count >= Start.LeadingNumbers.Count
            && version.LeadingNumbers.Take(Start.LeadingNumbers.Count).SequenceEqual(Start.LeadingNumbers);

        /// <inheritdoc/>
        public override string ToString() => $"{Start}.x";
    }

    /// <summary>
    /// From one version, included, to below another: <c>4..5</c>. Pre-releases are accepted only where a bound
    /// is one itself, and those that lead to the upper bound never are: 5.0-rc1 is not "below 5" to a user.
    /// </summary>
    public sealed record Range(AppVersion? From, AppVersion? Below) : VersionSelector
    {
        /// <inheritdoc/>
        public override bool Accepts(AppVersion version, ReleaseLine line)
        {
            if (version.IsPreRelease && From?.IsPreRelease != true && Below?.IsPreRelease != true) return false;
            if (From is not null && version < From) return false;
            return Below is null || (version < Below && (Below.IsPreRelease || !LeadsTo(version, Below)));
        }

        /// <inheritdoc/>
        public override string ToString() => $"{From}..{Below}";

        private static bool LeadsTo(AppVersion version, AppVersion bound)
        {
            if (!version.IsPreRelease) return false;
            var release = WithoutZeros(version.LeadingNumbers);
            return release.SequenceEqual(WithoutZeros(bound.LeadingNumbers));
        }

        private static IEnumerable<string> WithoutZeros(IReadOnlyList<string> numbers)
        {
            var count = numbers.Count;
            while (count > 1 && numbers[count - 1].Length == 0) count--;
            return numbers.Take(count);
        }
    }

    /// <summary>Every release of one line: <c>lts</c>.</summary>
    public sealed record OfLine(ReleaseLine Line) : VersionSelector
    {
        /// <inheritdoc/>
        public override bool Accepts(AppVersion version, ReleaseLine line) => line == Line;

        /// <inheritdoc/>
        public override string ToString() => Line.Name;
    }
}
