using System.Text.Json;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using static AmberCrate.Core.Inventories.JsonInventory;

namespace AmberCrate.Core.Inventories;

/// <summary>Writes a machine down as an SPDX 2.3 document (ISO/IEC 5962 and its successor), JSON.</summary>
public static class SpdxDocument
{
    private const string Nothing = "NOASSERTION", Itself = "SPDXRef-DOCUMENT";

    /// <summary>Writes it.</summary>
    public static string Write(Inventory inventory) => JsonInventory.Write(json =>
    {
        json.WriteStartObject();
        json.WriteString("spdxVersion", "SPDX-2.3");
        json.WriteString("dataLicense", "CC0-1.0");
        json.WriteString("SPDXID", Itself);
        json.WriteString("name", inventory.Machine);
        json.WriteString("documentNamespace", $"urn:uuid:{SerialOf(inventory)}");
        json.WriteStartObject("creationInfo");
        json.WriteString("created", Time(inventory.Taken));
        Array(json, "creators", [$"Tool: acrate-{inventory.Tool}"], json.WriteStringValue);
        json.WriteEndObject();
        json.WriteStartArray("packages");
        foreach (var item in inventory.Items)
        {
            WritePackage(json, item);
            foreach (var (file, at) in SeveralFiles(item)) WriteFile(json, IdOf(item.App.Id.Text, at), file);
        }

        json.WriteEndArray();
        WriteOwnLicences(json, inventory);
        WriteRelationships(json, inventory);
        json.WriteEndObject();
    });

    private static void WritePackage(Utf8JsonWriter json, InventoryItem item)
    {
        var app = item.App;
        json.WriteStartObject();
        json.WriteString("SPDXID", IdOf(app.Id.Text));
        json.WriteString("name", app.Name);
        json.WriteString("versionInfo", app.Version.Text);
        json.WriteString("supplier", item.Developer is { } developer ? $"Organization: {developer}" : Nothing);
        json.WriteString("downloadLocation", app.Files is [var only] && Address.Is(only.Source) ? only.Source : Nothing);
        json.WriteBoolean("filesAnalyzed", false);
        if (app.Files is [var whole]) WriteChecksum(json, whole.Sha256);
        if (item.Card?.Homepage is { } homepage) json.WriteString("homepage", homepage);
        if (item.Card is { } card) json.WriteString("summary", card.Summary);
        json.WriteString("licenseConcluded", Nothing);
        json.WriteString("licenseDeclared", item.Licence ?? Nothing);
        json.WriteString("copyrightText", Nothing);
        json.WriteStartArray("externalRefs");
        Texts(
            json, ("referenceCategory", "PACKAGE-MANAGER"), ("referenceType", "purl"), ("referenceLocator", item.PackageUrl));
        json.WriteEndArray();
        json.WriteEndObject();
    }

    /// <summary>The files that an app came from, where it came from several, counted from 1.</summary>
    private static IEnumerable<(DeliveredFile File, int At)> SeveralFiles(InventoryItem item) =>
        (item.App.SeveralFiles ?? []).Select((file, at) => (file, at + 1));

    private static void WriteFile(Utf8JsonWriter json, string id, DeliveredFile file)
    {
        json.WriteStartObject();
        json.WriteString("SPDXID", id);
        json.WriteString("name", file.Name);
        json.WriteString("downloadLocation", Address.Is(file.Source) ? file.Source : Nothing);
        json.WriteBoolean("filesAnalyzed", false);
        WriteChecksum(json, file.Sha256);
        json.WriteString("licenseConcluded", Nothing);
        json.WriteString("licenseDeclared", Nothing);
        json.WriteString("copyrightText", Nothing);
        json.WriteEndObject();
    }

    private static void WriteChecksum(Utf8JsonWriter json, Sha256Digest digest)
    {
        json.WriteStartArray("checksums");
        Texts(json, ("algorithm", "SHA256"), ("checksumValue", digest.Hex));
        json.WriteEndArray();
    }

    /// <summary>Licences that are not on SPDX's list must be explained in the document.</summary>
    private static void WriteOwnLicences(Utf8JsonWriter json, Inventory inventory)
    {
        var own = inventory.Items.SelectMany(item => OwnLicences(item.Licence ?? ""))
            .Distinct().Order(StringComparer.Ordinal).ToList();
        if (own.Count > 0)
            Array(json, "hasExtractedLicensingInfos", own, licence => Texts(
                json, ("licenseId", licence), ("extractedText", $"{licence}, as the app's catalogue names it")));
    }

    private static void WriteRelationships(Utf8JsonWriter json, Inventory inventory)
    {
        var ids = inventory.Items.Select(item => item.App.Id.Text).ToHashSet(StringComparer.Ordinal);
        json.WriteStartArray("relationships");
        foreach (var item in inventory.Items) Relate(Itself, "DESCRIBES", IdOf(item.App.Id.Text));
        foreach (var item in inventory.Items)
        {
            foreach (var (_, at) in SeveralFiles(item))
                Relate(IdOf(item.App.Id.Text), "CONTAINS", IdOf(item.App.Id.Text, at));
        }

        foreach (var app in inventory.Items.Select(item => item.App))
        {
            foreach (var need in app.Needs.Select(need => need.Id.Text).Where(ids.Contains).Distinct())
                Relate(IdOf(app.Id.Text), "DEPENDS_ON", IdOf(need));
        }

        json.WriteEndArray();

        void Relate(string from, string how, string to) =>
            Texts(json, ("spdxElementId", from), ("relationshipType", how), ("relatedSpdxElement", to));
    }

    private static string IdOf(string app, int file) => $"{IdOf(app)}-file-{file}";

    /// <summary>SPDX ids have letters, digits, dots and hyphens only.</summary>
    private static string IdOf(string app) => $"SPDXRef-{app.Replace('_', '-')}";

    private static IEnumerable<string> OwnLicences(string expression) => expression
        .Split([' ', '(', ')', '+'], StringSplitOptions.RemoveEmptyEntries)
        .Where(word => word.StartsWith("LicenseRef-", StringComparison.Ordinal));
}
