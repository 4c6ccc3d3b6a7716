using System.Text;
using AmberCrate.Core.Formats;
using AmberCrate.Core.Pins;

namespace AmberCrate.Core.Bundles;

/// <summary>Writes bundles as text that people can read and edit.</summary>
public static class BundleWriter
{
    /// <summary>Writes a whole bundle.</summary>
    public static string Write(Bundle bundle)
    {
        var text = new StringBuilder();
        text.Append("# A bundle: apps from which a machine is equipped (acrate equip FILE).\n");
        text.Append("bundle = ").Append(Bundle.FormatVersion).Append('\n');
        if (bundle.Title is not null) text.Append("title = ").Append(Quote(bundle.Title)).Append('\n');
        if (bundle.Captured is { } captured)
            text.Append("\n[captured]\non = ").Append(Quote(captured.On)).Append($"\ndate = {captured.Date:yyyy-MM-dd}\n");
        foreach (var catalogue in bundle.Catalogues) text.Append(Block(catalogue));
        foreach (var app in bundle.Apps) text.Append(Block(app));
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
        var faults = new List<FormatFault>();
        var root =
            TomlText.Read(text, "bundle", faults) ?? throw new ArgumentException("the text must be a valid bundle", nameof(text));
        var entries = Tables(root, "apps").ToDictionary(entry => BundleReader.NameIn(entry) ?? "");
        var edits = new List<(TomlString Token, string Value)>();
        var added = new StringBuilder();
        var catalogues = Tables(root, "catalogues").Select(entry => ((TomlString)entry.Entries["name"]).Value).ToHashSet();
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
        foreach (var (token, value) in edits.Where(edit => edit.Token.Value != edit.Value)
            .OrderByDescending(edit => edit.Token.Start))
            edited.Remove(token.Start, token.Length).Insert(token.Start, Quote(value));
        if (added.Length > 0 && edited.Length > 0 && edited[^1] != '\n') edited.Append('\n');
        return edited.Append(added).ToString();
    }

    /// <summary>Writes a TOML basic string.</summary>
    private static string Quote(string value)
    {
        var quoted = new StringBuilder("\"");
        foreach (var c in value)
        {
            if (c is '"' or '\\') quoted.Append('\\').Append(c);
            else if (char.IsControl(c)) quoted.Append($"\\u{(int)c:X4}");
            else quoted.Append(c);
        }

        return quoted.Append('"').ToString();
    }

    private static string Block(BundleCatalogue catalogue) =>
        $"\n[[catalogues]]\nname = {Quote(catalogue.Name.Text)}\nlocation = {Quote(catalogue.Location)}\n";

    private static string Block(BundleApp app) =>
        $"\n[[apps]]\nreference = {Quote(app.Reference.ToString())}\n"
            + (app.Version is null ? "" : $"version = {Quote(app.Version.Text)}\n")
        + (app.InstallerArguments.Count == 0
            ? ""
            : $"installer_arguments = [{string.Join(", ", app.InstallerArguments.Select(Quote))}]\n")
        + (app.Platform is null ? "" : $"platform = {Quote(app.Platform.ToString())}\n")
        + (app.Pin is null ? "" : $"pin = {{ {PinOf(app.Pin)} }}\n");

    private static string PinOf(Pin pin) => $"to = {Quote(pin.Selector.ToString())}"
        + (pin.Reason is null ? "" : $", reason = {Quote(pin.Reason)}")
        + (pin.Until is null ? "" : $", until = {pin.Until:yyyy-MM-dd}");

    private static IEnumerable<TomlTable> Tables(TomlTable root, string key) =>
        root.Entries.GetValueOrDefault(key) is TomlArray array ? array.Items.OfType<TomlTable>() : [];
}
