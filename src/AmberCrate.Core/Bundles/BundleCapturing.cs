using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Bundles;

/// <summary>Writes a machine down as a bundle.</summary>
public static class BundleCapturing
{
    /// <summary>The bundle of a machine.</summary>
    /// <param name="apps">The apps to write down, in order.</param>
    /// <param name="catalogues">The machine's catalogues, in order of preference; only those that an app comes from are
    /// written.</param>
    /// <param name="capture">Where and when.</param>
    /// <param name="withVersions">Whether the exact versions are written.</param>
    /// <param name="title">What the bundle is called; null for the machine's name.</param>
    /// <param name="pins">The machine's pins; null for none.</param>
    /// <returns>The bundle, and the apps that it cannot carry because their catalogue is gone.</returns>
    public static (Bundle Bundle, IReadOnlyList<InstalledApp> NotCarried) Capture(
        IReadOnlyCollection<InstalledApp> apps, IReadOnlyList<BundleCatalogue> catalogues, BundleCapture capture,
        bool withVersions, string? title = null, IReadOnlyList<Pin>? pins = null)
    {
        var pinned = (pins ?? []).ToDictionary(pin => pin.App);
        var known = catalogues.Select(catalogue => catalogue.Name).ToHashSet();
        var carried = apps.Where(app => known.Contains(app.Catalogue)).ToList();
        var used = carried.Select(app => app.Catalogue).ToHashSet();
        var bundle = new Bundle
        {
            Title = title ?? capture.On,
            Captured = capture,
            Catalogues = [.. catalogues.Where(catalogue => used.Contains(catalogue.Name))],
            Apps = [.. carried.Select(app => new BundleApp(
                new AppReference(app.Catalogue, app.Id.Text, app.Follows),
                withVersions ? app.Version : null)
            {
                InstallerArguments = app.InstallerArguments, Platform = app.Platform, Pin = pinned.GetValueOrDefault(app.Id),
            })],
        };
        return (bundle, [.. apps.Where(app => !known.Contains(app.Catalogue))]);
    }
}
