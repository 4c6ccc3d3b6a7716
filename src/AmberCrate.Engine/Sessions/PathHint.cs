namespace AmberCrate.Engine.Sessions;

/// <summary>How to start what was installed where the shell does not find it.</summary>
/// <param name="BinFolder">The folder of commands, which is not on PATH.</param>
/// <param name="Command">A command that was put there.</param>
/// <param name="Path">Its path.</param>
public sealed record PathHint(string BinFolder, string Command, string Path);
