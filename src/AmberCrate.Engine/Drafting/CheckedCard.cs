using AmberCrate.Core.Cards;
using AmberCrate.Core.Toml;

namespace AmberCrate.Engine.Drafting;

/// <summary>A card that could be read.</summary>
/// <param name="File">Its file, from the folder of cards.</param>
/// <param name="Card">The card.</param>
/// <param name="Root">The tables of its text, which give the lines.</param>
internal sealed record CheckedCard(string File, AppCard Card, TomlTable Root)
{
    /// <summary>Something that was found at a key.</summary>
    public CardFinding Finding(string key, string message, bool isFault) => new(File, Root.LineOf(key), key, message, isFault);
}
