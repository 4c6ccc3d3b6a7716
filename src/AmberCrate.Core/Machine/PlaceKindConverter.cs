using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Machine;

/// <summary>Writes a <see cref="PlaceKind"/> by its word.</summary>
internal sealed class PlaceKindConverter() : TextConverters.OfWords<PlaceKind>(PlaceWords.Kinds);
