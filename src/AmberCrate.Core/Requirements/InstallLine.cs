namespace AmberCrate.Core.Requirements;

/// <summary>The line that installs what a system lacks, for people to paste into a shell. It is never run from here.</summary>
public static class InstallLine
{
    /// <summary>The line for what is lacking; null without a known package.</summary>
    /// <param name="lacks">What is lacking.</param>
    /// <param name="installer">The system's program with its arguments; null for an unknown system.</param>
    /// <param name="isRoot">Whether the user has all rights already.</param>
    public static string? Compose(IEnumerable<SystemLack> lacks, (string Program, string Arguments)? installer, bool isRoot)
    {
        var packages = lacks.Select(lack => lack.Package).OfType<string>().Distinct()
            .Order(StringComparer.Ordinal).Select(Quoted).ToList();
        return packages.Count == 0 || installer is not { } known ? null
            : $"{(isRoot ? "" : "sudo ")}{known.Program} {known.Arguments} {string.Join(' ', packages)}";
    }

    private static string Quoted(string package) => package.All(
            letter => char.IsAsciiLetterOrDigit(letter) || letter is '+' or '-' or '.' or '_' or '/')
        ? package
        : $"'{package.Replace("'", "'\\''", StringComparison.Ordinal)}'";
}
