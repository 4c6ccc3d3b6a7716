using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Engine.Pinning;

namespace AmberCrate.Cli.Pinning;

/// <summary>Shows the pins, and what each holds back.</summary>
internal static class PinsView
{
    public static void Show(Output output, PinsResult result)
    {
        if (output.IsJson)
        {
            output.Json(PinsDocument.FromResult(result));
            return;
        }

        if (result.Changed is { } changed)
        {
            output.Line(
                new Cell(changed.App.Text, Tone.Strong),
                result.IsLifted ? $" is no longer {changed.Words}." : $" is {changed.Words}.");
            return;
        }

        var table = new TextTable(Shapes.Pins);
        foreach (var one in result.Pins)
        {
            var (pin, isLapsed) = (one.Pin, one.IsLapsed);
            table.Add(
                new Cell(pin.App.Text, Tone.Strong), $"@{pin.Selector}", one.Installed?.Version.Text ?? "not installed",
                one.HoldsBack?.Text,
                new Cell(
                    pin.Until is { } last ? $"{PlainText.Date(last)}{(isLapsed ? ", lapsed" : "")}" : "no end",
                    isLapsed ? Tone.Attention : Tone.Plain),
                new Cell(pin.Reason ?? "no reason given", pin.Reason is null ? Tone.Quiet : Tone.Plain));
        }

        var lapsed = result.Pins.Count(one => one.IsLapsed);
        output.List(
            result.Pins.Count == 0
                ? "No app is pinned."
                : $"{Words.Count(result.Pins.Count, "pin")}{(lapsed > 0 ? $", {lapsed} lapsed" : "")}",
            table, "");
    }
}
