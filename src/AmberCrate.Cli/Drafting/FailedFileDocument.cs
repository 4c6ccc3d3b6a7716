using AmberCrate.Cli.Shared;

namespace AmberCrate.Cli.Drafting;

/// <summary>A file that no card could be drafted from, as JSON.</summary>
internal sealed record FailedFileDocument(string Source, ProblemDocument Problem);
