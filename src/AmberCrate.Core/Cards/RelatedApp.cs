using System.Diagnostics.CodeAnalysis;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Cards;

/// <summary>
/// Another app or runtime without which an app does not work, or beside which it does not: <c>id[@selector]</c>.
/// </summary>
/// <param name="Id">The other app.</param>
/// <param name="Selector">The releases of it that are meant; null for any.</param>
public sealed record RelatedApp(AppId Id, VersionSelector? Selector)
{
    /// <summary>What one looks like, for messages.</summary>
    public const string Expected = "an id, if wished with a selector, such as batten-runtime or batten-runtime@1.2..2";

    /// <summary>Reads one; false when it is none.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out RelatedApp? related)
    {
        related = null;
        try
        {
            var reference = AppReference.Parse(text);
            if (reference.Catalogue is null && reference.Id is { } id)
                related = new RelatedApp(id, reference.Selector);
        }
        catch (MalformedException)
        {
            return false;
        }

        return related is not null;
    }

    /// <summary>Reads one.</summary>
    /// <exception cref="MalformedException">The text is not one.</exception>
    public static RelatedApp Parse(string text) =>
        TryParse(text, out var related) ? related : throw new MalformedException($"expected {Expected}, found \"{text}\"");

    /// <summary>Whether a release is meant.</summary>
    public bool Accepts(AppVersion version, ReleaseLine line) => Selector?.Accepts(version, line) != false;

    /// <inheritdoc/>
    public override string ToString() => Selector is null ? Id.Text : $"{Id}@{Selector}";
}
