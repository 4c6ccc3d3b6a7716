namespace AmberCrate.Core.Bundles;

/// <summary>A bundle that another builds on.</summary>
/// <param name="Place">A relative file, an https: address, or <c>catalogue:bundle</c>.</param>
/// <param name="Line">The line of the file, from 1.</param>
public sealed record BundleBase(string Place, int Line);
