namespace AmberCrate.Cli.Documents;

/// <summary>Something that was found in a card, as JSON.</summary>
internal sealed record CardFindingDocument(string File, int Line, string Key, string Message, string Kind);
