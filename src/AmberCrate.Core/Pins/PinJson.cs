using System.Text.Json;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Pins;

/// <summary>A pin as JSON, the form it has in the record of a run.</summary>
public static class PinJson
{
    /// <summary>Writes a pin.</summary>
    public static string Write(Pin pin)
    {
        var bytes = new System.Buffers.ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(bytes))
        {
            json.WriteStartObject();
            json.WriteString("app", pin.App.Text);
            json.WriteString("selector", pin.Selector.ToString());
            if (pin.Reason is { } reason) json.WriteString("reason", reason);
            if (pin.Until is { } until) json.WriteString("until", until.ToString("yyyy-MM-dd"));
            json.WriteString("since", pin.Since);
            json.WriteEndObject();
        }

        return System.Text.Encoding.UTF8.GetString(bytes.WrittenSpan);
    }

    /// <summary>Reads a pin.</summary>
    /// <exception cref="MalformedException">The text is not a pin.</exception>
    public static Pin Read(string text)
    {
        return ForeignText.Read("the pin", () =>
        {
            using var json = JsonDocument.Parse(text);
            var root = json.RootElement;
            return new Pin(AppId.Parse(Text("app")), VersionSelector.Parse(Text("selector")))
            {
                Reason = root.TryGetProperty("reason", out var reason) ? reason.GetString() : null,
                Until = root.TryGetProperty("until", out var until) ? DateOnly.ParseExact(until.GetString()!, "yyyy-MM-dd")
                    : null,
                Since = root.GetProperty("since").GetDateTimeOffset(),
            };

            string Text(string key) => root.GetProperty(key).GetString() ?? throw new MalformedException($"{key} is null");
        });
    }
}
