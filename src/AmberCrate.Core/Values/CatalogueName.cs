using System.Diagnostics.CodeAnalysis;

namespace AmberCrate.Core.Values;

/// <summary>The name under which a machine knows a catalogue.</summary>
public sealed record CatalogueName
{
    /// <summary>What a catalogue's name must look like, for messages.</summary>
    public const string Expected =
        "a catalogue name: lower-case letters, digits and hyphens, beginning with a letter, at most 40";

    private CatalogueName(string text) => Text = text;

    /// <summary>The name as written.</summary>
    public string Text { get; }

    /// <summary>Reads a name; false when it is not one.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out CatalogueName? name)
    {
        var valid = text.Length is > 0 and <= 40
            && char.IsAsciiLetterLower(text[0])
            && text.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c == '-');
        name = valid ? new CatalogueName(text) : null;
        return valid;
    }

    /// <summary>Reads a name.</summary>
    /// <exception cref="MalformedException">The text is not a catalogue name.</exception>
    public static CatalogueName Parse(string text) =>
        TryParse(text, out var name) ? name : throw new MalformedException($"expected {Expected}, found \"{text}\"");

    /// <inheritdoc/>
    public override string ToString() => Text;
}
