using AmberCrate.Core.Formats;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Bundles;

/// <summary>Reads a bundle. All faults of a file are found in one pass.</summary>
public static class BundleReader
{
    private const int MostArgument = 1000;
    private const string NeedsId = "expected only where reference names the app by its id";

    /// <summary>Reads a bundle from its text; null when faults were added.</summary>
    public static Bundle? Read(string text, string file, ICollection<FormatFault> faults)
    {
        var found = new List<FormatFault>();
        var bundle = TomlText.Read(text, file, found) is { } root ? Read(new TableReader(root, file, "", found)) : null;
        foreach (var fault in found.OrderBy(fault => fault.Line)) faults.Add(fault);
        return found.Count == 0 ? bundle : null;
    }

    /// <summary>
    /// The id-part of an entry's reference, folded, by which entries are told apart; null where it cannot be read.
    /// </summary>
    internal static string? NameIn(TomlTable entry)
    {
        try
        {
            return entry.Entries.GetValueOrDefault("reference") is TomlString text ? AppReference.Parse(text.Value).Name : null;
        }
        catch (MalformedException)
        {
            return null;
        }
    }

    private static Bundle Read(TableReader table)
    {
        table.Number("bundle", Bundle.FormatVersion, Bundle.FormatVersion, required: true);
        var bundle = new Bundle
        {
            Title = table.Text("title", maxLength: 200),
            Captured = ReadCapture(table.Child("captured")),
            Catalogues = [.. table.Children("catalogues").Select(ReadCatalogue).OfType<BundleCatalogue>()],
            Apps = [.. table.Children("apps").Select(ReadApp).OfType<BundleApp>()],
        };
        foreach (var twice in bundle.Catalogues.GroupBy(catalogue => catalogue.Name).Where(group => group.Count() > 1))
            table.AddFault("catalogues", $"expected each catalogue once, found \"{twice.Key}\" again");
        foreach (var twice in bundle.Apps.GroupBy(app => app.Reference.Name).Where(group => group.Count() > 1))
            table.AddFault("apps", $"expected each app once, found \"{twice.Key}\" again");
        table.RefuseUnknownKeys();
        return bundle;
    }

    private static BundleCapture? ReadCapture(TableReader? table)
    {
        if (table is null) return null;
        var capture = new BundleCapture(
            table.Text("on", required: true, maxLength: 200) ?? "", table.Date("date", required: true) ?? default);
        table.RefuseUnknownKeys();
        return capture;
    }

    private static BundleCatalogue? ReadCatalogue(TableReader table)
    {
        var name = table.Parsed<CatalogueName>("name", CatalogueName.TryParse, CatalogueName.Expected, required: true);
        var location = table.Text("location", required: true, maxLength: 4000);
        table.RefuseUnknownKeys();
        return name is null || location is null ? null : new BundleCatalogue(name, location);
    }

    private static BundleApp? ReadApp(TableReader table)
    {
        AppReference? reference = null;
        if (table.Text("reference", required: true) is { } text)
        {
            try
            {
                reference = AppReference.Parse(text);
            }
            catch (MalformedException fault)
            {
                table.AddFault("reference", $"{fault.Message}, found \"{text}\"");
            }
        }

        var version = table.Parsed<AppVersion>("version", AppVersion.TryParse, AppVersion.Expected);
        var installerArguments = table.Texts("installer_arguments", MostArgument);
        var platform = table.Parsed<Platform>("platform", Platform.TryParse, Platform.Expected);
        if (platform is not null && reference is not null && !AppId.TryParse(reference.Name, out _))
            table.AddFault("platform", NeedsId);
        var pin = ReadPin(table.Child("pin"), reference);
        table.RefuseUnknownKeys();
        return reference is null
            ? null
            : new BundleApp(reference, version) { InstallerArguments = installerArguments, Platform = platform, Pin = pin };
    }

    private static Pin? ReadPin(TableReader? table, AppReference? reference)
    {
        if (table is null) return null;
        var selector = table.Parsed<VersionSelector>("to", VersionSelector.TryParse, VersionSelector.Expected, required: true);
        var reason = table.Text("reason", maxLength: Pin.MostReason);
        var until = table.Date("until");
        table.RefuseUnknownKeys();
        if (reference is null || selector is null) return null;
        if (AppId.TryParse(reference.Name, out var id))
            return new Pin(id, selector) { Reason = reason is { Length: > 0 } ? reason : null, Until = until };
        table.AddFault("to", NeedsId);
        return null;
    }
}
