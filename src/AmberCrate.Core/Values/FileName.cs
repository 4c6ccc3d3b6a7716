using System.Diagnostics.CodeAnalysis;

namespace AmberCrate.Core.Values;

/// <summary>A single file name: no slash, no white space or control characters, not beginning with a dot or hyphen.</summary>
public sealed record FileName
{
    /// <summary>What a file name must look like, for messages.</summary>
    public const string Expected =
        "a file name without slashes, spaces or control characters that begins with neither . nor -, at most 120";

    private FileName(string text) => Text = text;

    /// <summary>The name.</summary>
    public string Text { get; }

    /// <summary>Reads a name; false when it is not one.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out FileName? name)
    {
        var valid = text.Length is > 0 and <= 120
            && text[0] is not ('.' or '-')
            && !text.Any(c => c == '/' || char.IsControl(c) || char.IsWhiteSpace(c));
        name = valid ? new FileName(text) : null;
        return valid;
    }

    /// <summary>Reads a name.</summary>
    /// <exception cref="MalformedException">The text is not a file name.</exception>
    public static FileName Parse(string text) =>
        TryParse(text, out var name) ? name : throw new MalformedException($"expected {Expected}, found \"{text}\"");

    /// <inheritdoc/>
    public override string ToString() => Text;
}
