using AmberCrate.Core.CardFiles;

namespace AmberCrate.Core.Machine;

/// <summary>Writes a <see cref="PlaceKind"/> by its word.</summary>
internal sealed class PlaceKindConverter() : TextConverters.OfWords<PlaceKind>(PlaceWords.Kinds);
