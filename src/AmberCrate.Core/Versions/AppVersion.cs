using System.Diagnostics.CodeAnalysis;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Versions;

/// <summary>
/// A version as its vendor writes it. Ordered by <see cref="UapiOrder"/> after <see cref="PreReleaseWords"/>
/// have been put before the release they lead to; two versions are equal exactly where UAPI.10 calls them equal.
/// </summary>
public sealed class AppVersion : IComparable<AppVersion>, IEquatable<AppVersion>
{
    /// <summary>The longest version accepted, in characters: it becomes part of a folder's name.</summary>
    public const int MaxLength = 64;

    /// <summary>What a version must look like, for messages.</summary>
    public const string Expected =
        "a version that begins with a digit: digits, letters and . - + _ ~ ^, at most 64, without '..' or a trailing '.x'";

    private readonly string _order;

    private AppVersion(string text)
    {
        Text = text;
        _order = PreReleaseWords.Rewrite(text);
    }

    /// <summary>The version exactly as written.</summary>
    public string Text { get; }

    /// <summary>Whether this leads to a release rather than being one: it carries a pre-release word or a tilde.</summary>
    public bool IsPreRelease => _order.Contains('~');

    /// <summary>The leading numbers: 4, 2 and 0 of <c>4.2.0-rc1</c>, without leading zeros.</summary>
    public IReadOnlyList<string> LeadingNumbers
    {
        get
        {
            var end = 0;
            while (end < _order.Length && (char.IsAsciiDigit(_order[end]) || IsInnerDot(end))) end++;
            return [.. _order[..end].Split('.').Select(number => number.TrimStart('0'))];
        }
    }

    /// <summary>Reads a version; false when it is not one.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out AppVersion? version)
    {
        version = IsValid(text) ? new AppVersion(text) : null;
        return version is not null;
    }

    /// <summary>Reads a version.</summary>
    /// <exception cref="MalformedException">The text is not a version.</exception>
    public static AppVersion Parse(string text) =>
        TryParse(text, out var version) ? version : throw new MalformedException($"expected {Expected}, found \"{text}\"");

    /// <inheritdoc/>
    public int CompareTo(AppVersion? other)
    {
        if (other is null) return 1;
        var order = UapiOrder.Compare(_order, other._order);
        return order != 0 ? order : UapiOrder.Compare(Text, other.Text);
    }

    /// <inheritdoc/>
    public bool Equals(AppVersion? other) => other is not null && CompareTo(other) == 0;

    /// <inheritdoc/>
    public override bool Equals(object? obj) => Equals(obj as AppVersion);

    /// <summary>Equal versions may differ in skipped characters and leading zeros, so neither is hashed.</summary>
    public override int GetHashCode()
    {
        var hash = default(HashCode);
        foreach (var c in _order)
        {
            if (c is not ('0' or '_' or '+')) hash.Add(c);
        }

        return hash.ToHashCode();
    }

    /// <inheritdoc/>
    public override string ToString() => Text;

    /// <summary>Equality as in <see cref="Equals(AppVersion)"/>.</summary>
    public static bool operator ==(AppVersion? left, AppVersion? right) => left is null ? right is null : left.Equals(right);

    /// <summary>Inequality as in <see cref="Equals(AppVersion)"/>.</summary>
    public static bool operator !=(AppVersion? left, AppVersion? right) => !(left == right);

    /// <summary>Older than.</summary>
    public static bool operator <(AppVersion left, AppVersion right) => left.CompareTo(right) < 0;

    /// <summary>Newer than.</summary>
    public static bool operator >(AppVersion left, AppVersion right) => left.CompareTo(right) > 0;

    /// <summary>Older than or equal.</summary>
    public static bool operator <=(AppVersion left, AppVersion right) => left.CompareTo(right) <= 0;

    /// <summary>Newer than or equal.</summary>
    public static bool operator >=(AppVersion left, AppVersion right) => left.CompareTo(right) >= 0;

    private bool IsInnerDot(int at) =>
        _order[at] == '.' && at + 1 < _order.Length && char.IsAsciiDigit(_order[at + 1]);

    private static bool IsValid(string text) =>
        text.Length is > 0 and <= MaxLength
        && char.IsAsciiDigit(text[0])
        && text.All(c => char.IsAsciiLetterOrDigit(c) || c is '.' or '-' or '+' or '_' or '~' or '^')
        && !text.Contains("..", StringComparison.Ordinal)
        && !text.EndsWith(".x", StringComparison.OrdinalIgnoreCase);
}
