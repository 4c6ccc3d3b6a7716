using AmberCrate.Core.Trials;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Engine.Drafting;

/// <summary>What came of starting a release of a card.</summary>
/// <param name="App">The app.</param>
/// <param name="Version">The release; null where none runs here.</param>
/// <param name="Starts">What came of each start, at least one.</param>
public sealed record CardTrial(AppId App, AppVersion? Version, IReadOnlyList<StartTrialResult> Starts);
