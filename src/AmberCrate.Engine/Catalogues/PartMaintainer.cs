namespace AmberCrate.Engine.Catalogues;

/// <summary>Another maintainer, to whom a catalogue leaves some apps.</summary>
/// <param name="Name">The name of their role.</param>
/// <param name="Mark">A digest of their patterns and keys. When it changes, parts that they signed before no longer
/// count.</param>
public sealed record PartMaintainer(string Name, string Mark);
