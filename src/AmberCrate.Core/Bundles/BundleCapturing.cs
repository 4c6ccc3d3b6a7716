using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Bundles;

/// <summary>Writes a machine down as a bundle.</summary>
public static class BundleCapturing
{
    /// <summary>The bundle of a machine.</summary>
    /// <param name="apps">The apps to write down, in order; dependencies are left to follow by themselves.</param>
    /// <param name="catalogues">The machine's catalogues, in order of preference; only those that an app comes from are
    /// written.</param>
    /// <param name="capture">Where and when.</param>
    /// <param name="versions">What is written about versions.</param>
    /// <param name="title">What the bundle is called; null for the machine's name.</param>
    /// <param name="pins">The machine's pins.</param>
    /// <returns>The bundle. Its <c>LeftBehind</c> lists apps whose catalogue is gone.</returns>
    public static Bundle Capture(
        IReadOnlyCollection<InstalledApp> apps, IReadOnlyList<BundleCatalogue> catalogues, BundleCapture capture,
        BundleVersions versions, string? title = null, IReadOnlyList<Pin>? pins = null)
    {
        var pinned = (pins ?? []).ToDictionary(pin => pin.App);
        var known = catalogues.Select(catalogue => catalogue.Name).ToHashSet();
        var chosen = apps.Where(app => !app.IsDependency || pinned.ContainsKey(app.Id)).ToList();
        var carried = chosen.Where(app => known.Contains(app.Catalogue)).ToList();
        var used = carried.Select(app => app.Catalogue).ToHashSet();
        return new Bundle
        {
            Title = title ?? capture.On,
            Captured = capture,
            Catalogues = [.. catalogues.Where(catalogue => used.Contains(catalogue.Name))],
            Apps = [.. carried.Select(app => Entry(app, versions) with { Pin = pinned.GetValueOrDefault(app.Id) })],
            LeftBehind = [.. chosen.Where(app => !known.Contains(app.Catalogue)).Select(app =>
                new LeftBehind(app.Id.Text, $"its catalogue {app.Catalogue} is not known here any more")
                {
                    Version = app.Version.Text,
                })],
        };
    }

    private static BundleApp Entry(InstalledApp app, BundleVersions versions) => new(
        new AppReference(app.Catalogue, app.Id.Text, versions == BundleVersions.None ? null : app.Follows),
        versions == BundleVersions.Exact ? app.Version : null)
    {
        InstallerArguments = app.InstallerArguments, Platform = app.Platform, IsDependency = app.IsDependency,
    };
}
