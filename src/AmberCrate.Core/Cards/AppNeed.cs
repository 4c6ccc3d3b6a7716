using System.Diagnostics.CodeAnalysis;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Cards;

/// <summary>Another app or runtime without which an app does not work: <c>id[@selector]</c>.</summary>
/// <param name="Id">What is needed.</param>
/// <param name="Selector">The releases of it that will do; null for any.</param>
public sealed record AppNeed(AppId Id, VersionSelector? Selector)
{
    /// <summary>What a need looks like, for messages.</summary>
    public const string Expected = "an id, if wished with a selector, such as batten-runtime or batten-runtime@1.2..2";

    /// <summary>Reads a need; false when it is not one.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out AppNeed? need)
    {
        need = null;
        try
        {
            var reference = AppReference.Parse(text);
            if (reference.Catalogue is null && AppId.TryParse(reference.Name, out var id)) need = new AppNeed(id, reference.Selector);
        }
        catch (FormatException)
        {
            return false;
        }

        return need is not null;
    }

    /// <summary>Reads a need.</summary>
    /// <exception cref="FormatException">The text is not one.</exception>
    public static AppNeed Parse(string text) => TryParse(text, out var need) ? need : throw new FormatException($"expected {Expected}, found \"{text}\"");

    /// <summary>Whether a release will do.</summary>
    public bool IsMetBy(AppVersion version, ReleaseLine line) => Selector?.Accepts(version, line) != false;

    /// <inheritdoc/>
    public override string ToString() => Selector is null ? Id.Text : $"{Id}@{Selector}";
}
