namespace AmberCrate.Core.Bundles;

/// <summary>An app that a bundle takes out of those it builds on.</summary>
/// <param name="Name">The app, as entries name it.</param>
/// <param name="Line">The line of the file, from 1.</param>
public sealed record BundleDrop(string Name, int Line);
