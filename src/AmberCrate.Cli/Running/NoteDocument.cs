namespace AmberCrate.Cli.Running;

/// <summary>Why a plan does what it does, as JSON.</summary>
internal sealed record NoteDocument(
    string Code,
    IReadOnlyDictionary<string, string> Values,
    string Text);
