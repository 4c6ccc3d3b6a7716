namespace AmberCrate.Core.Cards;

/// <summary>A picture of the app at work, after AppStream's <c>screenshots</c>.</summary>
/// <param name="Address">Where it lies: an http: or https: address.</param>
/// <param name="Caption">What it shows; null where nothing is said.</param>
public sealed record Screenshot(string Address, string? Caption);
