using AmberCrate.Cli.Shared;

namespace AmberCrate.Cli.Drafting;

/// <summary>A file of which no card could be drafted, as JSON.</summary>
internal sealed record FailedFileDocument(string Source, ProblemDocument Problem);
