using System.Diagnostics.CodeAnalysis;

namespace AmberCrate.Core.Versions;

/// <summary>A series of releases that a machine can follow, such as <c>stable</c>, <c>lts</c> or <c>preview</c>.</summary>
public sealed record ReleaseLine
{
    /// <summary>What a release line must look like, for messages.</summary>
    public const string Expected = "a release line: lower-case letters, digits and hyphens, beginning with a letter, at most 32";

    private ReleaseLine(string name) => Name = name;

    /// <summary>The line of finished releases, followed unless another is requested.</summary>
    public static ReleaseLine Stable { get; } = new("stable");

    /// <summary>The line of unfinished releases; a pre-release version without a line belongs to it.</summary>
    public static ReleaseLine Preview { get; } = new("preview");

    /// <summary>The line's name.</summary>
    public string Name { get; }

    /// <summary>Reads a release line; false when it is not one.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out ReleaseLine? line)
    {
        var valid = text.Length is > 0 and <= 32
            && char.IsAsciiLetterLower(text[0])
            && text.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-');
        line = valid ? new ReleaseLine(text) : null;
        return valid;
    }

    /// <inheritdoc/>
    public override string ToString() => Name;
}
