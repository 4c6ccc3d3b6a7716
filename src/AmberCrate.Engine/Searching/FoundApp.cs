using AmberCrate.Core.Values;
using AmberCrate.Engine.Indexing;

namespace AmberCrate.Engine.Searching;

/// <summary>An app that a search has found.</summary>
/// <param name="Result">The app, and why it was found.</param>
/// <param name="Version">The version that this machine would get; null where none fits it.</param>
/// <param name="Installed">The version that is installed; null if none is.</param>
/// <param name="Scope">Whose catalogue it is in.</param>
public sealed record FoundApp(SearchResult Result, string? Version, string? Installed, InstallScope Scope);
