using AmberCrate.Core.Cards;

namespace AmberCrate.Core.Drafting;

/// <summary>A release, as a metainfo file tells it.</summary>
/// <param name="Version">The version, as it was written.</param>
/// <param name="Date">The day on which it came out; null where the file is silent.</param>
/// <param name="Urgency">How much it matters; null where the file is silent.</param>
/// <param name="Notes">What is new in it; null where the file is silent.</param>
public sealed record MetainfoRelease(string Version, DateOnly? Date, Urgency? Urgency, string? Notes);
