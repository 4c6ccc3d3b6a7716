using System.Text.Json;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Views;

/// <summary>The events of a run as JSON Lines. See docs/json.md.</summary>
internal static class EventView
{
    public static void Write(Output output, RunEvent happened)
    {
        switch (happened)
        {
            case RunEvent.Begins begins:
                output.Event("begins", json =>
                {
                    json.WriteNumber("count", begins.Count);
                    json.WriteNumber("download_size", begins.Bytes);
                });
                break;
            case RunEvent.StageBegins stage:
                output.Event("stage", json =>
                {
                    Place(json, stage.Place);
                    json.WriteString("stage", RunProgress.StageWord(stage.Stage));
                });
                break;
            case RunEvent.Waits waits:
                output.Event("waits", json =>
                {
                    Place(json, waits.Place);
                    json.WriteNumber("seconds", Math.Round(waits.Wait.TotalSeconds, 3));
                    json.WriteString("why", waits.Why);
                });
                break;
            case RunEvent.Fetched fetched:
                output.Event("fetched", json => Place(json, fetched.Place));
                break;
            case RunEvent.ItemEnds ended:
                output.Event("item", json =>
                {
                    json.WriteNumber("number", ended.Place.Number);
                    json.WriteNumber("count", ended.Place.Count);
                    WriteItem(json, ended.Report);
                });
                break;
        }

        output.Flush();
    }

    /// <summary>Writes how an item ended into an object that is open.</summary>
    public static void WriteItem(Utf8JsonWriter json, ItemReport report)
    {
        json.WriteFields(report.Item);
        json.WriteString("outcome", Words.Of(report.Outcome));
        json.WriteProblem(report.Problem);
        json.WriteStartArray("notes");
        foreach (var note in report.Notes) json.WriteStringValue(note);
        json.WriteEndArray();
    }

    private static void Place(Utf8JsonWriter json, ItemPlace place)
    {
        json.WriteNumber("number", place.Number);
        json.WriteNumber("count", place.Count);
        json.WriteString("id", place.Item.Id);
        json.WriteString("version", (place.Item.To ?? place.Item.From)?.Text);
    }
}
