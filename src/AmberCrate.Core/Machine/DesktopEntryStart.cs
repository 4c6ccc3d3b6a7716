namespace AmberCrate.Core.Machine;

/// <summary>How a desktop entry starts its app.</summary>
/// <param name="Command">The absolute path of the command.</param>
/// <param name="Arguments">What follows the command; empty to keep what a shipped entry has.</param>
/// <param name="Icon">The icon's name in the theme; null to keep what a shipped entry has.</param>
public sealed record DesktopEntryStart(string Command, string Arguments, string? Icon);
