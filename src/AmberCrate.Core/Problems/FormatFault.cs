namespace AmberCrate.Core.Problems;

/// <summary>One fault in a file that a user wrote.</summary>
/// <param name="File">The file's name as the user knows it.</param>
/// <param name="Line">The line, counted from 1.</param>
/// <param name="Key">The key with its path, such as <c>releases[2].artifacts[1].format</c>; empty where the text itself is at
/// fault.</param>
/// <param name="Message">What was expected and what was found.</param>
public sealed record FormatFault(string File, int Line, string Key, string Message)
{
    /// <summary>The most faults that are looked for in one file.</summary>
    public const int Most = 100;

    /// <summary>A number of faults in words. From <see cref="Most"/> on there may be more of them.</summary>
    public static string Words(int count) => count == 1 ? "1 fault" : count < Most ? $"{count} faults"
        : $"{count} faults or more";

    /// <inheritdoc/>
    public override string ToString() => Key.Length == 0 ? $"{File}:{Line}: {Message}" : $"{File}:{Line}: {Key}: {Message}";
}
