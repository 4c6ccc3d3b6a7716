namespace AmberCrate.Engine.Drafting;

/// <summary>Something that was found in a card.</summary>
/// <param name="File">The card's file, from the folder of cards.</param>
/// <param name="Line">The line, counted from 1.</param>
/// <param name="Key">The key; empty where the file as a whole is meant.</param>
/// <param name="Message">The fault, and what to do.</param>
/// <param name="IsFault">Whether the card cannot be published like this; otherwise it is a warning.</param>
public sealed record CardFinding(string File, int Line, string Key, string Message, bool IsFault);
