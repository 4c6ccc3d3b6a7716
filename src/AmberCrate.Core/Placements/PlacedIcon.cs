using AmberCrate.Core.Values;

namespace AmberCrate.Core.Placements;

/// <summary>An icon in the hicolor theme.</summary>
/// <param name="Name">The icon's name without its ending.</param>
/// <param name="Path">The picture inside the shelf entry: PNG or SVG.</param>
/// <param name="Size">The theme's size folder: <c>scalable</c>, <c>symbolic</c> or such as <c>48x48</c>.</param>
public sealed record PlacedIcon(FileName Name, InsidePath Path, string Size);
