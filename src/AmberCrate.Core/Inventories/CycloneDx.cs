using System.Text.Json;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using static AmberCrate.Core.Inventories.JsonInventory;

namespace AmberCrate.Core.Inventories;

/// <summary>Writes a machine down as a CycloneDX 1.6 document (ECMA-424), JSON.</summary>
public static class CycloneDx
{
    private const string Machine = "machine";

    /// <summary>Writes it.</summary>
    public static string Write(Inventory inventory) => JsonInventory.Write(json =>
    {
        Begin(json, SerialOf(inventory));
        WriteMetadata(json, inventory);
        Array(json, "components", inventory.Items, item => WriteComponent(json, item));
        WriteDependencies(json, inventory);
        json.WriteEndObject();
    });

    /// <summary>Begins a document: what each one has before its metadata.</summary>
    public static void Begin(Utf8JsonWriter json, Guid serial)
    {
        json.WriteStartObject();
        json.WriteString("$schema", "http://cyclonedx.org/schema/bom-1.6.schema.json");
        json.WriteString("bomFormat", "CycloneDX");
        json.WriteString("specVersion", "1.6");
        json.WriteString("serialNumber", $"urn:uuid:{serial}");
        json.WriteNumber("version", 1);
    }

    private static void WriteMetadata(Utf8JsonWriter json, Inventory inventory)
    {
        json.WriteStartObject("metadata");
        json.WriteString("timestamp", Time(inventory.Taken));
        json.WriteStartObject("tools");
        json.WriteStartArray("components");
        Texts(json, ("type", "application"), ("name", "acrate"), ("version", inventory.Tool));
        json.WriteEndArray();
        json.WriteEndObject();
        json.WritePropertyName("component");
        Texts(json, ("type", "device"), ("bom-ref", Machine), ("name", inventory.Machine));
        json.WriteEndObject();
    }

    private static void WriteComponent(Utf8JsonWriter json, InventoryItem item)
    {
        var app = item.App;
        json.WriteStartObject();
        json.WriteString("type", app.Kind switch
        {
            AppKind.Runtime => "framework",
            AppKind.Font => "file",
            AppKind.DesktopApp or AppKind.ConsoleApp => "application",
        });
        json.WriteString("bom-ref", app.Id.Text);
        if (item.Developer is { } developer)
        {
            json.WritePropertyName("supplier");
            Texts(json, ("name", developer));
        }

        json.WriteString("name", app.Name);
        json.WriteString("version", app.Version.Text);
        if (item.Card is { } card) json.WriteString("description", card.Summary);
        json.WriteString("scope", "required");
        if (app.Files is [var only]) WriteHash(json, only.Sha256);
        if (item.Licence is { } licence) Array(json, "licenses", [licence], one => Texts(json, ("expression", one)));
        json.WriteString("purl", item.PackageUrl);
        WriteReferences(json, item);
        if (app.Files.Count > 1) Array(json, "components", app.Files, file => WriteFile(json, file));
        json.WriteEndObject();
    }

    /// <summary>A file that an app came from, where it came from several.</summary>
    private static void WriteFile(Utf8JsonWriter json, DeliveredFile file)
    {
        json.WriteStartObject();
        json.WriteString("type", "file");
        json.WriteString("name", file.Name);
        WriteHash(json, file.Sha256);
        json.WriteEndObject();
    }

    private static void WriteHash(Utf8JsonWriter json, Sha256Digest digest)
    {
        json.WriteStartArray("hashes");
        Texts(json, ("alg", "SHA-256"), ("content", digest.Hex));
        json.WriteEndArray();
    }

    private static void WriteReferences(Utf8JsonWriter json, InventoryItem item)
    {
        List<(string Type, string Address)> addresses = [];
        addresses.AddRange(item.App.Files.Where(file => Address.Is(file.Source)).Select(file => ("distribution", file.Source)));
        if (item.Card?.Homepage is { } homepage) addresses.Add(("website", homepage));
        if (addresses.Count > 0)
            Array(
                json, "externalReferences", addresses, one => Texts(json, ("type", one.Type), ("url", one.Address)));
    }

    private static void WriteDependencies(Utf8JsonWriter json, Inventory inventory)
    {
        var ids = inventory.Items.Select(item => item.App.Id.Text).ToHashSet(StringComparer.Ordinal);
        json.WriteStartArray("dependencies");
        Write(Machine, inventory.Items.Where(item => !item.App.IsDependency).Select(item => item.App.Id.Text));
        foreach (var item in inventory.Items) Write(item.App.Id.Text, item.App.Needs.Select(need => need.Id.Text));
        json.WriteEndArray();

        void Write(string from, IEnumerable<string> to)
        {
            json.WriteStartObject();
            json.WriteString("ref", from);
            Array(json, "dependsOn", to.Where(ids.Contains).Distinct(), json.WriteStringValue);
            json.WriteEndObject();
        }
    }
}
