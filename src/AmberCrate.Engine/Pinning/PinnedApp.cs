using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Versions;

namespace AmberCrate.Engine.Pinning;

/// <summary>A pin and its app.</summary>
/// <param name="Pin">The pin.</param>
/// <param name="IsLapsed">Whether its last day is over.</param>
/// <param name="Installed">The app; null where it is not installed.</param>
/// <param name="Entry">The app beside what is offered; null where it is not installed.</param>
public sealed record PinnedApp(Pin Pin, bool IsLapsed, InstalledApp? Installed, DueEntry? Entry)
{
    /// <summary>The version that it holds back; null for none.</summary>
    public AppVersion? HoldsBack => Entry?.IsNewerPinned == true ? Entry.Newer!.Release.Version : null;
}
