namespace AmberCrate.Engine.Host;

/// <summary>How a program of the system has answered.</summary>
/// <param name="Code">Its exit code; null where it could not be started, or had not ended in time.</param>
/// <param name="Output">What it has written to standard output.</param>
/// <param name="Errors">What it has written to standard error, or why there is no code.</param>
internal sealed record ProgramAnswer(int? Code, string Output, string Errors);
