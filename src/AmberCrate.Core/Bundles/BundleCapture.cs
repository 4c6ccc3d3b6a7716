namespace AmberCrate.Core.Bundles;

/// <summary>Where and when a bundle was captured.</summary>
/// <param name="On">The machine.</param>
/// <param name="Date">The day.</param>
public sealed record BundleCapture(string On, DateOnly Date);
