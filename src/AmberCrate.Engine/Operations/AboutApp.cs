using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;

namespace AmberCrate.Engine.Operations;

/// <summary>Everything that is known about one app.</summary>
/// <param name="Assessment">By what it is judged.</param>
/// <param name="Other">The app as it is in the other scope; null where it is not there.</param>
/// <param name="Orphaned">Why no catalogue offers it although it is installed, in words; empty where one does.</param>
public sealed record AboutApp(AppAssessment Assessment, InstalledApp? Other, string Orphaned);
