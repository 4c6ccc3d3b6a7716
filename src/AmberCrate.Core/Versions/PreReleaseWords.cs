using System.Text;

namespace AmberCrate.Core.Versions;

/// <summary>
/// The words that vendors use for what comes before a release, and the rewriting that makes them
/// sort before it: <c>1.0-beta.2</c>, <c>1.0beta2</c> and <c>1.0_beta2</c> all become <c>1.0~c2</c>,
/// where the letter means the stage (a: development, b: alpha, c: beta, d: preview, e: candidate).
/// </summary>
public static class PreReleaseWords
{
    private static readonly Dictionary<string, char> Stages = new(StringComparer.OrdinalIgnoreCase)
    {
        ["dev"] = 'a', ["devel"] = 'a', ["nightly"] = 'a', ["snapshot"] = 'a', ["canary"] = 'a', ["prealpha"] = 'a',
        ["alpha"] = 'b',
        ["beta"] = 'c',
        ["pre"] = 'd', ["prerelease"] = 'd', ["preview"] = 'd', ["milestone"] = 'd', ["ea"] = 'd',
        ["rc"] = 'e', ["cr"] = 'e', ["candidate"] = 'e',
    };

    /// <summary>Rewrites every pre-release word that follows a digit; everything else stays as it is.</summary>
    public static string Rewrite(string version)
    {
        var text = new StringBuilder(version.Length + 4);
        var digitSeen = false;
        for (var at = 0; at < version.Length;)
        {
            var length = RunOfLetters(version, at);
            if (length > 0 && digitSeen && Stages.TryGetValue(version.Substring(at, length), out var stage))
            {
                while (text.Length > 0 && !char.IsAsciiLetterOrDigit(text[^1])) text.Length--;
                text.Append('~').Append(stage);
                at = SkipToNumber(version, at + length);
                continue;
            }

            length = Math.Max(length, 1);
            digitSeen |= char.IsAsciiDigit(version[at]);
            text.Append(version, at, length);
            at += length;
        }

        return text.ToString();
    }

    private static int RunOfLetters(string version, int at)
    {
        var end = at;
        while (end < version.Length && char.IsAsciiLetter(version[end])) end++;
        return end - at;
    }

    /// <summary>"rc.1", "rc-1" and "rc1" mean the same: separators between the word and its number go.</summary>
    private static int SkipToNumber(string version, int at)
    {
        var next = at;
        while (next < version.Length && !char.IsAsciiLetterOrDigit(version[next]) && version[next] is not ('~' or '^')) next++;
        return next < version.Length && char.IsAsciiDigit(version[next]) ? next : at;
    }
}
