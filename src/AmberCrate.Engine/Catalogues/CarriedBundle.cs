using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Catalogues;

/// <summary>A bundle that a catalogue carries.</summary>
/// <param name="Catalogue">The catalogue.</param>
/// <param name="Name">Its name there.</param>
/// <param name="Text">Its text, in UTF-8.</param>
public sealed record CarriedBundle(CatalogueName Catalogue, string Name, byte[] Text);
