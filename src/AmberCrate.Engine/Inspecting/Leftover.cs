namespace AmberCrate.Engine.Inspecting;

/// <summary>A file or folder that an earlier run has left.</summary>
/// <param name="Path">Where it is.</param>
/// <param name="Size">How many bytes it holds.</param>
public sealed record Leftover(string Path, long Size);
