using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Searching;

/// <summary>The data about one app, or several.</summary>
/// <param name="Apps">The apps, in the order they were named.</param>
/// <param name="Freshness">How fresh the catalogue data are.</param>
/// <param name="Platform">The platform of this machine.</param>
/// <param name="Layout">Where the apps of the scope lie that was requested.</param>
/// <param name="OtherLayout">Where those of the other scope lie.</param>
/// <param name="FirstOnPath">The folder of commands that a shell looks into first; null where that is none of the two.</param>
public sealed record AboutResult(
    IReadOnlyList<AboutApp> Apps, DataFreshness Freshness, Platform Platform, MachineLayout Layout, MachineLayout OtherLayout,
    string? FirstOnPath)
{
    /// <summary>The languages to show it in, the most exact first; none for English.</summary>
    public IReadOnlyList<string> Languages { get; init; } = [];

    /// <summary>Where an app lies, or would lie.</summary>
    public MachineLayout LayoutOf(AboutApp app) => app.Scope == Layout.Scope ? Layout : OtherLayout;

    /// <summary>Where it is in the other scope.</summary>
    public MachineLayout OtherLayoutOf(AboutApp app) => app.Scope == Layout.Scope ? OtherLayout : Layout;
}
