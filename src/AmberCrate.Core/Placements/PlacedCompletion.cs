using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>What a shell needs to complete the arguments of a command.</summary>
/// <param name="Shell">The shell.</param>
/// <param name="Command">The command of this app that is completed.</param>
/// <param name="Path">The file inside the shelf entry.</param>
public sealed record PlacedCompletion(CompletionShell Shell, FileName Command, InsidePath Path);
