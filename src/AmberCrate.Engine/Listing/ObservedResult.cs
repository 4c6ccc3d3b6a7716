using AmberCrate.Core.Planning;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Listing;

/// <summary>Software that others have put on the machine.</summary>
/// <param name="Found">The software: what a catalogue has first, then what is in the menu.</param>
/// <param name="Freshness">How fresh the data of the catalogues are.</param>
public sealed record ObservedResult(IReadOnlyList<ObservedMatch> Found, DataFreshness Freshness);
