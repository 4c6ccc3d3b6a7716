using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Engine.Configuring;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Cli.Configuring;

/// <summary>Shows every setting, and where its value comes from.</summary>
internal static class SettingsView
{
    public static void Show(Output output, SettingsResult result)
    {
        if (output.IsJson)
        {
            output.Json(new SettingsDocument([.. result.Values.Select(ToDocument)], result.Files));
            return;
        }

        var table = new TextTable(Shapes.Settings);
        foreach (var value in result.Values)
        {
            var isSet = value.Origin != SettingOrigin.Default;
            table.Add(
                new Cell(value.Key.Name, Tone.Strong), value.Text,
                new Cell(isSet ? value.Where : OriginWords.Origins.WordOf(value.Origin), isSet ? Tone.Plain : Tone.Quiet),
                value.Key.Meaning);
        }

        output.Table(table);
        output.Line(new Cell($"set by an option, a variable, or a line in {string.Join(" or ", result.Files)}", Tone.Quiet));
    }

    private static SettingDocument ToDocument(SettingValue value) => new(
        value.Key.Name, value.Text, OriginWords.Origins.WordOf(value.Origin), value.Where, value.Key.Option, value.Key.Variable);
}
