using System.Text;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Toml;

namespace AmberCrate.Core.Bundles;

/// <summary>Writes bundles as text that people can read and edit.</summary>
public static class BundleWriter
{
    /// <summary>Writes a whole bundle.</summary>
    public static string Write(Bundle bundle)
    {
        var text = new StringBuilder();
        text.Append("# A bundle: apps to equip a machine with (acrate equip FILE).\n");
        text.Append("bundle = ").Append(Bundle.FormatVersion).Append('\n');
        if (bundle.Title is not null) text.Append("title = ").Append(BundleText.Quote(bundle.Title)).Append('\n');
        if (bundle.BuildsOn.Count > 0)
            text.Append($"builds_on = {BundleText.Quote(bundle.BuildsOn.Select(one => one.Place))}\n");
        if (bundle.Drops.Count > 0) text.Append($"drops = {BundleText.Quote(bundle.Drops.Select(drop => drop.Name))}\n");
        if (bundle.When is { } when) text.Append($"when = {MatchOf(when)}\n");
        if (bundle.Sealed is { } day)
            text.Append($"sealed = {day:yyyy-MM-dd}   # every version and digest is fixed; this is not a signature\n");
        if (bundle.Captured is { } captured) text.Append(Block(captured));
        foreach (var catalogue in bundle.Catalogues) text.Append(Block(catalogue));
        foreach (var app in bundle.Apps) text.Append(Block(app));
        if (bundle.LeftBehind.Count > 0) text.Append("\n# On that machine too, and not installed by equip:\n");
        foreach (var left in bundle.LeftBehind) text.Append(Block(left));
        return text.ToString();
    }

    /// <summary>
    /// Brings the text of a bundle up to date with what a machine holds. Only the strings of references and versions
    /// that differ are replaced and what is missing is added at the end, so that comments and order stay. Entries
    /// without a version stay without one, and entries that the machine does not have stay as they are.
    /// </summary>
    /// <param name="text">The text; it must be a valid bundle.</param>
    /// <param name="machine">What the machine holds.</param>
    public static string Update(string text, Bundle machine)
    {
        var root = BundleEditing.Root(text);
        var entries = BundleEditing.Entries(root);
        var edits = new List<(TomlString Token, string Value)>();
        var added = new StringBuilder();
        var catalogues = BundleEditing.Tables(root, "catalogues")
            .Select(entry => ((TomlString)entry.Entries["name"]).Value).ToHashSet();
        foreach (var catalogue in machine.Catalogues.Where(catalogue => !catalogues.Contains(catalogue.Name.Text)))
            added.Append(Block(catalogue));
        foreach (var app in machine.Apps)
        {
            if (!entries.TryGetValue(app.Reference.Name, out var entry))
            {
                added.Append(Block(app));
                continue;
            }

            edits.Add(((TomlString)entry.Entries["reference"], app.Reference.ToString()));
            if (app.Version is not null && entry.Entries.GetValueOrDefault("version") is TomlString version)
                edits.Add((version, app.Version.Text));
        }

        var edited = new StringBuilder(text);
        BundleEditing.Replace(edited, edits);
        BundleEditing.Append(edited, added);
        return edited.ToString();
    }

    /// <summary>The text of a catalogue.</summary>
    internal static string Block(BundleCatalogue catalogue) =>
        $"\n[[catalogues]]\nname = {BundleText.Quote(catalogue.Name.Text)}\nlocation = {BundleText.Quote(catalogue.Location)}\n"
        + (catalogue.Root is null ? "" : $"root_sha256 = {BundleText.Quote(catalogue.Root.Hex)}\n")
        + (catalogue.Data is { } data ? $"data = {data:yyyy-MM-dd}\n" : "")
        + (catalogue.Cards is null ? "" : $"cards_sha256 = {BundleText.Quote(catalogue.Cards.Hex)}\n");

    /// <summary>The text of an entry.</summary>
    internal static string Block(BundleApp app)
    {
        var text = new StringBuilder($"\n[[apps]]\nreference = {BundleText.Quote(app.Reference.ToString())}\n");
        if (app.Version is not null) text.Append($"version = {BundleText.Quote(app.Version.Text)}\n");
        if (app.Sha256 is not null) text.Append($"sha256 = {BundleText.Quote(app.Sha256.Hex)}\n");
        if (app.InstallerArguments.Count > 0)
            text.Append($"installer_arguments = {BundleText.Quote(app.InstallerArguments)}\n");
        if (app.Platform is not null) text.Append($"platform = {BundleText.Quote(app.Platform.ToString())}\n");
        if (app.IsDependency) text.Append("dependency = true\n");
        if (app.IsObserved) text.Append("observed = true\n");
        if (app.When is { } when) text.Append($"when = {MatchOf(when)}\n");
        if (app.Pin is not null) text.Append($"pin = {{ {PinOf(app.Pin)} }}\n");
        return text.ToString();
    }

    private static string Block(BundleCapture captured) =>
        $"\n[captured]\non = {BundleText.Quote(captured.On)}\ndate = {captured.Date:yyyy-MM-dd}\n"
        + (captured.Tool is null ? "" : $"tool = {BundleText.Quote(captured.Tool)}\n")
        + (captured.IsForAllUsers ? "all_users = true\n" : "");

    private static string Block(LeftBehind left) =>
        $"\n[[left_behind]]\nname = {BundleText.Quote(left.Name)}\n"
        + (left.Version is null ? "" : $"version = {BundleText.Quote(left.Version)}\n")
        + (left.Seen is null ? "" : $"seen = {BundleText.Quote(left.Seen)}\n") + $"reason = {BundleText.Quote(left.Reason)}\n";

    private static string MatchOf(MachineMatch match) => "{ " + string.Join(
        ", ", new[]
        {
            match.Hosts.Count > 0 ? $"hosts = {BundleText.Quote(match.Hosts)}" : "",
            match.Platforms.Count > 0 ? $"platforms = {BundleText.Quote(match.Platforms.Select(one => one.ToString()))}" : "",
        }.Where(part => part.Length > 0)) + " }";

    private static string PinOf(Pin pin) => $"to = {BundleText.Quote(pin.Selector.ToString())}"
        + (pin.Reason is null ? "" : $", reason = {BundleText.Quote(pin.Reason)}")
        + (pin.Until is null ? "" : $", until = {pin.Until:yyyy-MM-dd}");
}
