using AmberCrate.Core.Pins;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>A pin that a plan sets, changes or lifts before its first item.</summary>
/// <param name="App">The app.</param>
/// <param name="Before">The pin that it has; null for none.</param>
/// <param name="After">The pin that it will have; null for none.</param>
public sealed record PlannedPin(AppId App, Pin? Before, Pin? After);
