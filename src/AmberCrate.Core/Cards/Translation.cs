namespace AmberCrate.Core.Cards;

/// <summary>What a card says in another language than English. What it leaves out is shown in English.</summary>
/// <param name="Language">The language, as <see cref="Values.LanguageTag"/> writes it.</param>
/// <param name="Name">The name for people; null for the English one.</param>
/// <param name="Summary">One line about the app; null for the English one.</param>
/// <param name="Keywords">Words that people search for it with, in addition to the English ones.</param>
/// <param name="Description">Paragraphs about it; null for the English ones.</param>
public sealed record Translation(
    string Language, string? Name, string? Summary, IReadOnlyList<string> Keywords, string? Description);
