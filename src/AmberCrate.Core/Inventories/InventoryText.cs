using System.Text;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Inventories;

/// <summary>Writes a machine down in the forms that people and shells read.</summary>
public static class InventoryText
{
    private static readonly string[] Columns =
    [
        "id", "name", "version", "catalogue", "follows", "pinned_to", "pin_reason", "pin_until", "chosen", "installed_at",
        "bytes", "licence", "developer", "sha256", "source",
    ];

    /// <summary>One reference a line, as <c>--list-file</c> takes it, with the name behind it.</summary>
    public static string List(Inventory inventory)
    {
        var text = new StringBuilder();
        text.Append($"# {Line(inventory.Machine)}, {inventory.Taken:yyyy-MM-dd}: acrate install --list-file FILE\n");
        var names = inventory.Items.ToDictionary(item => item.App.Id.Text, item => item.App.Name, StringComparer.Ordinal);
        foreach (var app in inventory.Bundle.Apps.Where(app => !app.IsDependency))
        {
            var name = names.TryGetValue(app.Reference.Name, out var known) ? $"   # {Line(known)}" : "   # from others there";
            text.Append($"{ReferenceOf(app)}{name}\n");
        }

        foreach (var left in inventory.Bundle.LeftBehind)
            text.Append($"# not in the list: {Line(left.Name)}{(left.Version is null ? "" : " " + Line(left.Version))}: "
                + $"{Line(left.Reason)}\n");
        return text.ToString();
    }

    /// <summary>A table for spreadsheets (RFC 4180). A cell that a spreadsheet would take for a formula begins with
    /// <c>'</c>.</summary>
    public static string Csv(Inventory inventory)
    {
        var pins = inventory.Bundle.Apps.Select(app => app.Pin).OfType<Pins.Pin>().ToDictionary(pin => pin.App);
        var text = new StringBuilder();
        text.Append(string.Join(',', Columns)).Append("\r\n");
        foreach (var item in inventory.Items)
        {
            var (app, pin) = (item.App, pins.GetValueOrDefault(item.App.Id));
            string?[] cells =
            [
                app.Id.Text, app.Name, app.Version.Text, app.Catalogue.Text, app.Follows?.ToString(), pin?.Selector.ToString(),
                pin?.Reason, $"{pin?.Until:yyyy-MM-dd}", app.IsDependency ? "no" : "yes",
                $"{app.InstalledAt.UtcDateTime:yyyy-MM-dd'T'HH:mm:ss'Z'}", $"{app.Size}", item.Licence, item.Developer,
                app.Sha256.Hex, app.Source,
            ];
            text.Append(string.Join(',', cells.Select(Cell))).Append("\r\n");
        }

        return text.ToString();
    }

    /// <summary>
    /// A POSIX shell script that installs the same: it gives the bundle to <c>acrate equip</c>, with the options that the script
    /// is called with, and shows the commands that come to the same by hand.
    /// </summary>
    public static string Script(Inventory inventory)
    {
        const string end = "END_OF_BUNDLE";
        var text = new StringBuilder();
        text.Append("#!/bin/sh\n");
        text.Append($"# Installs the apps of {Line(inventory.Machine)}, as they were on {inventory.Taken:yyyy-MM-dd}.\n");
        text.Append("# Options go to acrate, such as --all-users, --dry-run or --yes. ACRATE names the program.\n#\n");
        text.Append("# The same by hand, except what each app follows:\n");
        foreach (var command in Commands(inventory.Bundle)) text.Append($"#   {command}\n");
        text.Append("set -eu\n");
        text.Append($"exec \"${{ACRATE:-acrate}}\" equip - \"$@\" <<'{end}'\n");
        text.Append(BundleWriter.Write(inventory.Bundle));
        return text.Append(end).Append('\n').ToString();
    }

    private static IEnumerable<string> Commands(Bundle bundle)
    {
        foreach (var catalogue in bundle.Catalogues)
            yield return $"acrate catalogue add {catalogue.Name} {ShellWord.Quote(Line(catalogue.Location))}";
        foreach (var app in bundle.Apps.Where(app => !app.IsDependency))
        {
            var arguments = string.Concat(app.InstallerArguments.Select(argument =>
                $" --installer-argument {ShellWord.Quote($"{app.Reference.Name}={Line(argument)}")}"));
            var platform = app.Platform is null ? "" : $" --platform {app.Platform}";
            yield return $"acrate install {ShellWord.Quote(ReferenceOf(app))}{platform}{arguments}";
        }

        foreach (var pin in bundle.Apps.Select(app => app.Pin).OfType<Pins.Pin>())
            yield return $"acrate pin {ShellWord.Quote($"{pin.App}@{pin.Selector}")}"
                + (pin.Reason is null ? "" : $" --reason {ShellWord.Quote(Line(pin.Reason))}")
                + (pin.Until is { } until ? $" --until {until:yyyy-MM-dd}" : "");
    }

    private static string ReferenceOf(BundleApp app) => app.Version is null ? app.Reference.ToString()
        : (app.Reference with { Selector = new VersionSelector.Exactly(app.Version) }).ToString();

    private static string Cell(string? value)
    {
        if (value is null or "") return "";
        if (value[0] is '=' or '+' or '-' or '@' or '\t' or '\r') value = "'" + value;
        return value.AsSpan().IndexOfAny(",\"\r\n") < 0 ? value : $"\"{value.Replace("\"", "\"\"", StringComparison.Ordinal)}\"";
    }

    /// <summary>A text on one line: whoever wrote it could end a comment with a line break.</summary>
    private static string Line(string text) => string.Concat(text.Select(c => char.IsControl(c) ? ' ' : c));
}
