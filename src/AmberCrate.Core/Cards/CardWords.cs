namespace AmberCrate.Core.Cards;

/// <summary>
/// The words that cards and catalogues write for values of enumerations, for every reader and writer. Each table stands in
/// the
/// file of its enumeration.
/// </summary>
public static partial class CardWords;
