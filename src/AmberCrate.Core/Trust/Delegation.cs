using System.Security.Cryptography;
using System.Text;

namespace AmberCrate.Core.Trust;

/// <summary>A role that another one delegates some targets to.</summary>
/// <param name="Name">The role's name.</param>
/// <param name="Keys">Who must sign it.</param>
/// <param name="IsTerminating">Whether the search for a target ends here if a pattern fits, found or not.</param>
/// <param name="Paths">Patterns of targets, with <c>*</c> and <c>?</c> for characters of one part of a path.</param>
/// <param name="HashPrefixes">Beginnings of the SHA-256 of targets' paths, instead of patterns.</param>
public sealed record Delegation(
    string Name, KeyRule Keys, bool IsTerminating, IReadOnlyList<string> Paths, IReadOnlyList<string> HashPrefixes)
{
    /// <summary>Whether a target is left to it.</summary>
    public bool Fits(string path)
    {
        if (HashPrefixes.Count == 0) return Paths.Any(pattern => Fits(pattern, path));
        var digest = Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(path)));
        return HashPrefixes.Any(prefix => digest.StartsWith(prefix, StringComparison.Ordinal));
    }

    private static bool Fits(string pattern, string path)
    {
        var (patterns, parts) = (pattern.Split('/'), path.Split('/'));
        return patterns.Length == parts.Length && patterns.Zip(parts).All(pair =>
            System.IO.Enumeration.FileSystemName.MatchesSimpleExpression(pair.First, pair.Second, ignoreCase: false));
    }
}
