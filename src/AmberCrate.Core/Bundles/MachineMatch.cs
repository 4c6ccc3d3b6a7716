using AmberCrate.Core.Values;

namespace AmberCrate.Core.Bundles;

/// <summary>Which machines a bundle, or an entry of one, is meant for.</summary>
public sealed record MachineMatch
{
    /// <summary>What the pattern of a machine's name must look like, for messages.</summary>
    public const string ExpectedHost = "the name of a machine, with * for any characters, such as paintframe-*";

    /// <summary>
    /// Patterns; one of them must fit the machine's name; <c>*</c> means any characters. Empty for any name.
    /// </summary>
    public IReadOnlyList<string> Hosts { get; init; } = [];

    /// <summary>Platforms; one of them must run on the machine. Empty for any.</summary>
    public IReadOnlyList<Platform> Platforms { get; init; } = [];

    /// <summary>Whether a machine is one of them.</summary>
    /// <param name="host">Its name.</param>
    /// <param name="platform">Its platform.</param>
    public bool Fits(string host, Platform platform) =>
        (Hosts.Count == 0 || Hosts.Any(pattern => FitsName(pattern, host)))
        && (Platforms.Count == 0 || Platforms.Any(one => one.RunsOn(platform)));

    /// <summary>Whether a text can be the pattern of a machine's name.</summary>
    public static bool IsPattern(string text) =>
        text.Length is > 0 and <= 253 && text.All(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '.' or '_' or '*');

    /// <summary>In words, such as <c>paintframe-*, booth-01; x86_64-linux-gnu</c>.</summary>
    public string Words => string.Join(
        "; ", new[] { string.Join(", ", Hosts), string.Join(", ", Platforms) }.Where(part => part.Length > 0));

    /// <summary>
    /// Whether a name fits a pattern, in time that grows with the product of their lengths: the last <c>*</c> takes one character
    /// more where the rest does not fit.
    /// </summary>
    private static bool FitsName(string pattern, string name)
    {
        var (p, n, star, retry) = (0, 0, -1, 0);
        while (n < name.Length)
        {
            if (p < pattern.Length && pattern[p] == '*') (star, retry) = (p++, n);
            else if (p < pattern.Length && IsSame(pattern[p], name[n])) (p, n) = (p + 1, n + 1);
            else if (star >= 0) (p, n) = (star + 1, ++retry);
            else return false;
        }

        return pattern.AsSpan(p).Trim('*').IsEmpty;

        static bool IsSame(char one, char other) => char.ToLowerInvariant(one) == char.ToLowerInvariant(other);
    }
}
