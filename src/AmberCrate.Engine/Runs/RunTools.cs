using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.Runs;

/// <summary>What a run works with.</summary>
/// <param name="Layout">Where everything lies.</param>
/// <param name="Records">The records.</param>
/// <param name="Downloads">The artifacts that have been fetched.</param>
/// <param name="Placing">The shelf and what is placed.</param>
/// <param name="Confinement">How foreign programs are confined.</param>
public sealed record RunTools(
    MachineLayout Layout, RecordStore Records, DownloadCache Downloads, PlacingTools Placing, Confinement Confinement);
