using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;

namespace AmberCrate.Engine.Placing;

/// <summary>What it takes to put versions on the shelf and their things in place, for one layout.</summary>
/// <param name="Shelf">The shelf.</param>
/// <param name="Placer">Places what belongs outside the shelf.</param>
/// <param name="Caches">Refreshes the desktop's own lists.</param>
/// <param name="System">Says what the system lacks.</param>
public sealed record PlacingTools(Shelf Shelf, Placer Placer, DesktopCaches Caches, SystemCheck System)
{
    /// <summary>The tools of a layout.</summary>
    /// <param name="layout">Where everything lies.</param>
    /// <param name="host">What is around the program: its root is where the system's packages and libraries are looked
    /// at.</param>
    public static PlacingTools Create(MachineLayout layout, HostEnvironment host)
    {
        var packages = new SystemPackages(host.SystemRoot);
        var programs = new ProgramCheck(host.SystemRoot, host.SearchPath, packages);
        return new PlacingTools(
            new Shelf(layout), new Placer(layout, packages, programs), new DesktopCaches(layout),
            new SystemCheck(host.SystemRoot, layout.Scope == InstallScope.AllUsers ? "" : host.SearchPath, packages));
    }
}
