using AmberCrate.Core.Trust;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Sessions;

/// <summary>The root that a catalogue offers, and that a user is to trust.</summary>
/// <param name="Name">The catalogue's name here.</param>
/// <param name="Digest">The digest of the root, to be compared with what the maintainer says.</param>
/// <param name="Root">The root.</param>
public sealed record OfferedRoot(CatalogueName Name, Sha256Digest Digest, RootMetadata Root);
