using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Searching;

/// <summary>Everything that is known about one app.</summary>
/// <param name="Assessment">By what it is judged.</param>
/// <param name="Scope">Whose catalogues and apps it was judged by.</param>
/// <param name="Other">The app as it is in the other scope; null where it is not there.</param>
/// <param name="Orphaned">Why no catalogue offers it although it is installed, in words; empty where one does.</param>
/// <param name="Next">What to type to have what is shown; null where it is there already, not
/// available, or the system lacks something for it.</param>
public sealed record AboutApp(
    AppAssessment Assessment, InstallScope Scope, InstalledApp? Other, string Orphaned, NextCommand? Next)
{
    /// <summary>Its pin; null for none.</summary>
    public Core.Pins.Pin? Pin { get; init; }

    /// <summary>The same software as packages of the system.</summary>
    public IReadOnlyList<ObservedApp> AlsoHere { get; init; } = [];

    /// <summary>How what it requires of the system was found to be; null where its card does not say what that is.</summary>
    public SystemState? System { get; init; }

    /// <summary>The same id in catalogues of the other scope.</summary>
    public IReadOnlyList<OtherOffer> Elsewhere { get; init; } = [];
}
