using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>
/// A command that the desktop starts in the background when a user signs in, after the Desktop Application Autostart
/// specification.
/// </summary>
/// <param name="Name">The entry's file name without <c>.desktop</c>.</param>
/// <param name="Command">The command of this app that is started.</param>
/// <param name="Arguments">What follows the command; empty for nothing.</param>
public sealed record PlacedAutostart(FileName Name, FileName Command, string Arguments);
