namespace AmberCrate.Cli.Documents;

/// <summary>A command that could not be carried out, as JSON.</summary>
internal sealed record ErrorDocument(
    ProblemDocument Error,
    int ExitCode,
    int Format = DocumentFormat.Number);
