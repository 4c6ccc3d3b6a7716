namespace AmberCrate.Cli.Drafting;

/// <summary>Something that was found in a card, as JSON.</summary>
internal sealed record CardFindingDocument(string File, int Line, string Key, string Message, string Kind);
