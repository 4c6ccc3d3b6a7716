using System.Globalization;

namespace AmberCrate.Core.Requirements;

/// <summary>
/// The order of versions of Debian packages, after deb-version(7): epoch, upstream version and revision, each in runs of
/// other characters and of digits; <c>~</c> comes before everything, even the end.
/// </summary>
public static class DebianVersionOrder
{
    /// <summary>Compares two versions: below 0 where the first is older, above 0 where it is newer.</summary>
    public static int Compare(string one, string other)
    {
        var (first, second) = (Split(one), Split(other));
        var order = first.Epoch.CompareTo(second.Epoch);
        if (order == 0) order = CompareParts(first.Upstream, second.Upstream);
        return order != 0 ? order : CompareParts(first.Revision, second.Revision);
    }

    private static (long Epoch, string Upstream, string Revision) Split(string version)
    {
        var colon = version.IndexOf(':', StringComparison.Ordinal);
        var epoch = colon > 0 && long.TryParse(version[..colon], NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? number
            : 0;
        var rest = version[(colon + 1)..];
        var hyphen = rest.LastIndexOf('-');
        return hyphen < 0 ? (epoch, rest, "") : (epoch, rest[..hyphen], rest[(hyphen + 1)..]);
    }

    private static int CompareParts(string one, string other)
    {
        var (left, right) = (0, 0);
        while (left < one.Length || right < other.Length)
        {
            while (IsBesideDigits(one, left) || IsBesideDigits(other, right))
            {
                var order = Rank(one, left).CompareTo(Rank(other, right));
                if (order != 0) return order;
                left++;
                right++;
            }

            var (first, second) = (Digits(one, ref left), Digits(other, ref right));
            var size = first.Length != second.Length
                ? first.Length.CompareTo(second.Length)
                : string.CompareOrdinal(first, second);
            if (size != 0) return size;
        }

        return 0;
    }

    private static bool IsBesideDigits(string text, int at) => at < text.Length && !char.IsAsciiDigit(text[at]);

    /// <summary>The digits from a place on, without leading zeros.</summary>
    private static string Digits(string text, ref int at)
    {
        var from = at;
        while (at < text.Length && char.IsAsciiDigit(text[at])) at++;
        return text[from..at].TrimStart('0');
    }

    /// <summary>Where a character comes: ~, then the end or a digit, then letters, then the rest.</summary>
    private static int Rank(string text, int at) => at >= text.Length || char.IsAsciiDigit(text[at]) ? 0
        : text[at] == '~' ? -1
        : char.IsAsciiLetter(text[at]) ? text[at]
        : text[at] + 256;
}
