using AmberCrate.Core.Versions;

namespace AmberCrate.Engine.Drafting;

/// <summary>A release to be added to a card.</summary>
/// <param name="Card">The card's file.</param>
/// <param name="Sources">The vendor's files, or their addresses, in the order of unpacking; at least one.</param>
/// <param name="Version">Its version; null for what the file says.</param>
/// <param name="Line">Its release line; null for the usual one.</param>
/// <param name="FromMetainfo">Whether date, urgency and news must come from the metainfo in the file.</param>
public sealed record ReleaseRequest(
    string Card, IReadOnlyList<string> Sources, AppVersion? Version, ReleaseLine? Line, bool FromMetainfo);
