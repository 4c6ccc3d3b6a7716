using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>Observed software beside the app of a catalogue that it is.</summary>
/// <param name="Observed">The software.</param>
/// <param name="App">The id of the app; null where no catalogue has it.</param>
/// <param name="Catalogue">The catalogue; null where none has it.</param>
/// <param name="Offered">The version that this machine would get; null where none fits.</param>
public sealed record ObservedMatch(ObservedApp Observed, AppId? App, CatalogueName? Catalogue, AppVersion? Offered)
{
    /// <summary>Whether the app is installed by this program too.</summary>
    public bool IsInstalled { get; init; }

    /// <summary>Whether the catalogue has something newer.</summary>
    public bool IsOlder => Offered is not null && Observed.Version is { } here && here < Offered;

    /// <summary>Its state in its catalogue, in words.</summary>
    public string Words => Catalogue is null ? "in no catalogue"
        : IsInstalled ? $"also installed here as {App}"
        : Offered is null ? $"{App} in {Catalogue}, not for this machine"
        : IsOlder ? $"older than {App} {Offered} in {Catalogue}"
        : Observed.Version is null ? $"{App} {Offered} in {Catalogue}"
        : Observed.Version == Offered ? $"the same as {App} in {Catalogue}" : $"newer than {App} {Offered} in {Catalogue}";
}
