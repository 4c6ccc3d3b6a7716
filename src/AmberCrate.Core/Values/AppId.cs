using System.Diagnostics.CodeAnalysis;

namespace AmberCrate.Core.Values;

/// <summary>The name of an app in commands and files: lower-case letters, digits, single hyphens and dots.</summary>
public sealed record AppId
{
    /// <summary>What an id must look like, for messages.</summary>
    public const string Expected = "an id of lower-case letters and digits, joined by single hyphens or dots, at most 80";

    /// <summary>The longest id, in characters.</summary>
    public const int MaxLength = 80;

    private AppId(string text) => Text = text;

    /// <summary>The id as written.</summary>
    public string Text { get; }

    /// <summary>Reads an id; false when it is not one.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out AppId? id)
    {
        id = IsValid(text) ? new AppId(text) : null;
        return id is not null;
    }

    /// <summary>Reads an id.</summary>
    /// <exception cref="MalformedException">The text is not an id.</exception>
    public static AppId Parse(string text) =>
        TryParse(text, out var id) ? id : throw new MalformedException($"expected {Expected}, found \"{text}\"");

    /// <inheritdoc/>
    public override string ToString() => Text;

    private static bool IsValid(string text)
    {
        if (text.Length is 0 or > MaxLength) return false;
        for (var at = 0; at < text.Length; at++)
        {
            var isJoint = text[at] is '-' or '.';
            if (!isJoint && !char.IsAsciiLetterLower(text[at]) && !char.IsAsciiDigit(text[at])) return false;
            if (isJoint && (at == 0 || at == text.Length - 1 || text[at - 1] is '-' or '.')) return false;
        }

        return true;
    }
}
