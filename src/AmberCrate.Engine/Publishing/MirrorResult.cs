namespace AmberCrate.Engine.Publishing;

/// <summary>A copy of a signed catalogue.</summary>
/// <param name="Folder">Where it is.</param>
/// <param name="Fetched">How many files were fetched now.</param>
/// <param name="Size">How many bytes they have.</param>
/// <param name="Kept">How many files were there already, and are what was signed.</param>
public sealed record MirrorResult(string Folder, int Fetched, long Size, int Kept);
