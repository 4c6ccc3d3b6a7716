using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Publishing;

/// <summary>A catalogue that has been published, as JSON.</summary>
internal sealed record PublishedDocument(
    string Folder,
    int Apps,
    int Parts,
    long Size,
    int Pages,
    bool PagesWait,
    string? WithoutOthers,
    string? Root,
    IReadOnlyList<WaitingDocument> Waiting,
    IReadOnlyList<string> Removed,
    int Format = DocumentFormat.Number);
