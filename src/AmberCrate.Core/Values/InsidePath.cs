using System.Diagnostics.CodeAnalysis;

namespace AmberCrate.Core.Values;

/// <summary>A relative path with <c>/</c> that cannot leave the folder it is taken from.</summary>
public sealed record InsidePath
{
    /// <summary>What such a path must look like, for messages.</summary>
    public const string Expected =
        "a relative path with / that stays inside: no leading /, no . or .. parts, no control characters";

    private InsidePath(string text) => Text = text;

    /// <summary>The path.</summary>
    public string Text { get; }

    /// <summary>The last part.</summary>
    public string FileName => Text[(Text.LastIndexOf('/') + 1)..];

    /// <summary>Reads a path; false when it would leave, or is not a plain path.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out InsidePath? path)
    {
        var valid = text.Length is > 0 and <= 4000 && StaysInside(text);
        path = valid ? new InsidePath(text) : null;
        return valid;
    }

    private static bool StaysInside(ReadOnlySpan<char> text)
    {
        foreach (var letter in text)
        {
            if (char.IsControl(letter)) return false;
        }

        foreach (var part in text.Split('/'))
        {
            if (text[part] is "" or "." or "..") return false;
        }

        return true;
    }

    /// <summary>Reads a path.</summary>
    /// <exception cref="MalformedException">The text is not such a path.</exception>
    public static InsidePath Parse(string text) =>
        TryParse(text, out var path) ? path : throw new MalformedException($"expected {Expected}, found \"{text}\"");

    /// <inheritdoc/>
    public override string ToString() => Text;
}
