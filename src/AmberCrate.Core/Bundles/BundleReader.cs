using AmberCrate.Core.Formats;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Toml;
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
    /// The folded id-part of an entry's reference, which identifies the entry; null where it cannot be read.
    /// </summary>
    internal static string? NameIn(TomlTable entry) => ReferenceIn(entry)?.Name;

    /// <summary>The catalogue that an entry names; null where it names none.</summary>
    internal static string? CatalogueIn(TomlTable entry) => ReferenceIn(entry)?.Catalogue?.Text;

    private static AppReference? ReferenceIn(TomlTable entry)
    {
        try
        {
            return entry.Entries.GetValueOrDefault("reference") is TomlString text ? AppReference.Parse(text.Value) : null;
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
            BuildsOn = ReadBases(table),
            Drops = [.. Lines(table, "drops").Select(drop => new BundleDrop(drop.Text, drop.Line))],
            When = ReadMatch(table.Child("when")),
            Sealed = table.Date("sealed"),
            Captured = ReadCapture(table.Child("captured")),
            Catalogues = [.. table.Children("catalogues").Select(ReadCatalogue).OfType<BundleCatalogue>()],
            Apps = [.. table.Children("apps").Select(ReadApp).OfType<BundleApp>()],
            LeftBehind = [.. table.Children("left_behind").Select(ReadLeftBehind).OfType<LeftBehind>()],
        };
        foreach (var twice in bundle.Catalogues.GroupBy(catalogue => catalogue.Name).Where(group => group.Count() > 1))
            table.AddFault("catalogues", $"expected each catalogue once, found \"{twice.Key}\" again");
        foreach (var twice in bundle.Apps.GroupBy(app => app.Reference.Name).Where(group => group.Count() > 1))
            table.AddFault(
                "apps",
                $"expected each app once, found \"{twice.Key}\" in line {string.Join(" and ", twice.Select(app => app.Line))}");
        foreach (var drop in bundle.Drops)
        {
            if (bundle.Apps.FirstOrDefault(app => drop.Takes(app.Reference)) is { } kept)
                table.AddFault("drops", $"{drop.Name} is dropped in line {drop.Line} and listed in line {kept.Line}");
        }

        if (bundle.Sealed is not null) RequireFixed(table, bundle);
        table.RefuseUnknownKeys();
        return bundle;
    }

    private static void RequireFixed(TableReader table, Bundle bundle)
    {
        foreach (var app in bundle.Apps.Where(app => app.Version is null || app.Sha256 is null))
            table.AddFault(
                "sealed", $"{app.Reference.Name} in line {app.Line} has no {(app.Version is null ? "version" : "sha256")}");
        if (bundle.BuildsOn.Count > 0) table.AddFault("builds_on", "a sealed bundle is complete, and builds on nothing");
    }

    private static List<BundleBase> ReadBases(TableReader table)
    {
        var bases = new List<BundleBase>();
        foreach (var (text, line) in Lines(table, "builds_on"))
        {
            if (BundlePlace.Fault(text) is { } fault) table.AddFault("builds_on", $"{fault}, found \"{text}\"");
            else bases.Add(new BundleBase(text, line));
        }

        return bases;
    }

    private static IEnumerable<(string Text, int Line)> Lines(TableReader table, string key)
    {
        var texts = table.Texts(key, 2000);
        var items = (table.Table.Entries.GetValueOrDefault(key) as TomlArray)?.Items ?? [];
        return texts.Count == items.Count ? texts.Zip(items, (text, item) => (text, item.Line)) : [];
    }

    private static MachineMatch? ReadMatch(TableReader? table)
    {
        if (table is null) return null;
        var match = new MachineMatch
        {
            Hosts = table.Texts("hosts", 253),
            Platforms = [.. table.Texts("platforms").Select(text => ReadPlatform(table, text)).OfType<Platform>()],
        };
        foreach (var host in match.Hosts.Where(host => !MachineMatch.IsPattern(host)))
            table.AddFault("hosts", $"expected {MachineMatch.ExpectedHost}, found \"{host}\"");
        if (match.Hosts.Count == 0 && match.Platforms.Count == 0 && !table.Has("hosts") && !table.Has("platforms"))
            table.AddFault("hosts", "expected hosts or platforms, found neither");
        table.RefuseUnknownKeys();
        return match;
    }

    private static Platform? ReadPlatform(TableReader table, string text)
    {
        if (!Platform.TryParse(text, out var platform))
            table.AddFault("platforms", $"expected {Platform.Expected}, found \"{text}\"");
        return platform;
    }

    private static LeftBehind? ReadLeftBehind(TableReader table)
    {
        var name = table.Text("name", required: true, maxLength: 500);
        var left = new LeftBehind(name ?? "", table.Text("reason", required: true) ?? "")
        {
            Version = table.Text("version", maxLength: 500), Seen = table.Text("seen", maxLength: 4000),
        };
        table.RefuseUnknownKeys();
        return name is null ? null : left;
    }

    private static BundleCapture? ReadCapture(TableReader? table)
    {
        if (table is null) return null;
        var capture = new BundleCapture(
            table.Text("on", required: true, maxLength: 200) ?? "", table.Date("date", required: true) ?? default)
        {
            Tool = table.Text("tool", maxLength: 200), IsForAllUsers = table.Truth("all_users"),
        };
        table.RefuseUnknownKeys();
        return capture;
    }

    private static BundleCatalogue? ReadCatalogue(TableReader table)
    {
        var name = table.Parsed<CatalogueName>("name", CatalogueName.TryParse, CatalogueName.Expected, required: true);
        var location = table.Text("location", required: true, maxLength: 4000);
        var root = table.Parsed<Sha256Digest>("root_sha256", Sha256Digest.TryParse, Sha256Digest.Expected);
        var data = table.Date("data");
        var cards = table.Parsed<Sha256Digest>("cards_sha256", Sha256Digest.TryParse, Sha256Digest.Expected);
        table.RefuseUnknownKeys();
        return name is null || location is null
            ? null
            : new BundleCatalogue(name, location) { Root = root, Data = data, Cards = cards };
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
        if (platform is not null && reference is not null && reference.Id is null)
            table.AddFault("platform", NeedsId);
        var pin = ReadPin(table.Child("pin"), reference);
        var sha256 = table.Parsed<Sha256Digest>("sha256", Sha256Digest.TryParse, Sha256Digest.Expected);
        if (sha256 is not null && version is null) table.AddFault("sha256", "expected only beside version");
        var (isDependency, isObserved) = (table.Truth("dependency"), table.Truth("observed"));
        var when = ReadMatch(table.Child("when"));
        table.RefuseUnknownKeys();
        return reference is null
            ? null
            : new BundleApp(reference, version)
            {
                InstallerArguments = installerArguments, Platform = platform, Pin = pin, Sha256 = sha256,
                IsDependency = isDependency, IsObserved = isObserved, When = when, Line = table.Table.Line,
            };
    }

    private static Pin? ReadPin(TableReader? table, AppReference? reference)
    {
        if (table is null) return null;
        var selector = table.Parsed<VersionSelector>("to", VersionSelector.TryParse, VersionSelector.Expected, required: true);
        var reason = table.Text("reason", maxLength: Pin.MostReason);
        var until = table.Date("until");
        table.RefuseUnknownKeys();
        if (reference is null || selector is null) return null;
        if (reference.Id is { } id)
            return new Pin(id, selector) { Reason = reason is { Length: > 0 } ? reason : null, Until = until };
        table.AddFault("to", NeedsId);
        return null;
    }
}
