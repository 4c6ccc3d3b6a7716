using System.Text.Json.Serialization;
using AmberCrate.Cli.Terminal;

namespace AmberCrate.Cli.Shared;

/// <summary>A command that could not be carried out, as JSON: a document, or the last line of a run.</summary>
internal sealed record ErrorDocument(
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] string? Event,
    ProblemDocument Error,
    int ExitCode,
    int Format = DocumentFormat.Number);
