namespace AmberCrate.Core.Problems;

/// <summary>Words of a command line as a POSIX shell reads them.</summary>
public static class ShellWord
{
    private const string SafeMarks = "@%+=:,./-_";

    /// <summary>The word, in single quotes where a shell would otherwise read something else.</summary>
    public static string Quote(string word) =>
        word.Length > 0
            && word.All(letter => char.IsAsciiLetterOrDigit(letter) || SafeMarks.Contains(letter, StringComparison.Ordinal))
            ? word
            : $"'{word.Replace("'", "'\\''", StringComparison.Ordinal)}'";
}
