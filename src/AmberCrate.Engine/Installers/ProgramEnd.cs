namespace AmberCrate.Engine.Installers;

/// <summary>How a foreign program ended.</summary>
/// <param name="ExitCode">Its exit code.</param>
/// <param name="Refusal">Why it was ended before its time; null where it ended by itself.</param>
/// <param name="LastLines">The last lines that it wrote.</param>
public sealed record ProgramEnd(int ExitCode, string? Refusal, IReadOnlyList<string> LastLines);
