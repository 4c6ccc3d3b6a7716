namespace AmberCrate.Engine.Operations;

/// <summary>How to write a machine down.</summary>
/// <param name="File">The file to write; null for none, only the text.</param>
/// <param name="Title">What the bundle calls the machine; null for its name.</param>
/// <param name="WithVersions">Whether exact versions are written.</param>
/// <param name="IsUpdate">Whether an existing file is brought up to date.</param>
public sealed record ExportRequest(string? File, string? Title, bool WithVersions, bool IsUpdate);
