using System.Security.Cryptography;
using System.Text.Json;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.KitFiles;

/// <summary>
/// What a kit says about itself: an OCI image layout (OCI image specification 1.1) with one manifest, whose layers are the sealed
/// bundle, cards, artifacts, and perhaps the program.
/// </summary>
/// <param name="Title">What the kit is called.</param>
/// <param name="Platform">The platform it is for.</param>
/// <param name="Created">When it was made.</param>
/// <param name="Blobs">Its layers, in the order they are in the file.</param>
public sealed record KitManifest(string Title, Platform Platform, DateTimeOffset Created, IReadOnlyList<KitBlob> Blobs)
{
    /// <summary>
    /// The catalogues whose cards it has, but not their signatures. For these <c>equip</c> takes <c>--unsigned</c>.
    /// </summary>
    public IReadOnlyList<string> NotSigned =>
    [
        .. Blobs.Where(blob => blob.MediaType == KitMedia.Cards).Select(blob => blob.Catalogue).OfType<string>()
            .Except(Blobs.Where(blob => blob.MediaType == KitMedia.Trust).Select(blob => blob.Catalogue).OfType<string>()),
    ];

    internal const string LayoutName = "oci-layout", IndexName = "index.json";
    internal const int MostBytes = 16 << 20;

    /// <summary>The files that comes before the layers, in order: layout, index, manifest and configuration.</summary>
    internal IReadOnlyList<(string Name, byte[] Content)> Head()
    {
        var config = Written(json =>
        {
            json.WriteStartObject();
            json.WriteString(
                "architecture", ProcessorArchitecture.Named(Platform.Architecture)?.ImageName ?? "unknown");
            json.WriteString("os", "linux");
            json.WriteStartObject("rootfs");
            json.WriteString("type", "layers");
            json.WriteStartArray("diff_ids");
            foreach (var blob in Blobs) json.WriteStringValue(Digest(blob.Sha256));
            json.WriteEndArray();
            json.WriteEndObject();
            json.WriteEndObject();
        });
        var manifest = Written(json => WriteManifest(json, config));
        var index = Written(json => WriteIndex(json, manifest));
        return
        [
            (LayoutName, "{\"imageLayoutVersion\":\"1.0.0\"}"u8.ToArray()), (IndexName, index),
            (PathOf(manifest), manifest), (PathOf(config), config),
        ];
    }

    /// <summary>The digest and size of the manifest that an index names.</summary>
    /// <exception cref="MalformedException">The text is no index of one kit.</exception>
    internal static KitBlob ReadIndex(ReadOnlyMemory<byte> text) => Read(text, "index.json", root =>
    {
        var manifests = root.GetProperty("manifests").EnumerateArray().ToList();
        return manifests.Count == 1 ? DescriptorOf(manifests[0]) : throw new MalformedException("expected one manifest");
    });

    /// <summary>Reads a manifest.</summary>
    /// <exception cref="MalformedException">The text is no manifest of a kit.</exception>
    internal static KitManifest ReadManifest(ReadOnlyMemory<byte> text) => Read(text, "its manifest", root =>
    {
        var kind = Text(root, "artifactType");
        if (kind != KitMedia.Kit)
            throw new MalformedException(kind?.StartsWith("application/vnd.ambercrate.kit.", StringComparison.Ordinal) == true
                ? $"it is of a newer format, {kind}; use a newer acrate"
                : "it is an image of something else");
        var notes = root.GetProperty("annotations");
        return new KitManifest(
            Text(notes, KitMedia.TitleKey) ?? "", Platform.Parse(Text(notes, KitMedia.PlatformKey) ?? ""),
            DateTimeOffset.Parse(
                Text(notes, KitMedia.CreatedKey) ?? "", System.Globalization.CultureInfo.InvariantCulture,
                System.Globalization.DateTimeStyles.AssumeUniversal),
            [.. root.GetProperty("layers").EnumerateArray().Select(DescriptorOf)]);
    });

    private void WriteManifest(Utf8JsonWriter json, byte[] config)
    {
        json.WriteStartObject();
        json.WriteNumber("schemaVersion", 2);
        json.WriteString("mediaType", KitMedia.Manifest);
        json.WriteString("artifactType", KitMedia.Kit);
        json.WritePropertyName("config");
        Write(json, new KitBlob(KitMedia.Config, Hash(config), config.Length));
        json.WriteStartArray("layers");
        foreach (var blob in Blobs) Write(json, blob);
        json.WriteEndArray();
        json.WriteStartObject("annotations");
        json.WriteString(KitMedia.TitleKey, Title);
        json.WriteString(KitMedia.CreatedKey, $"{Created.UtcDateTime:yyyy-MM-dd'T'HH:mm:ss'Z'}");
        json.WriteString(KitMedia.PlatformKey, Platform.ToString());
        json.WriteEndObject();
        json.WriteEndObject();
    }

    private static void WriteIndex(Utf8JsonWriter json, byte[] manifest)
    {
        json.WriteStartObject();
        json.WriteNumber("schemaVersion", 2);
        json.WriteString("mediaType", KitMedia.Index);
        json.WriteStartArray("manifests");
        json.WriteStartObject();
        json.WriteString("mediaType", KitMedia.Manifest);
        json.WriteString("digest", Digest(Hash(manifest)));
        json.WriteNumber("size", manifest.Length);
        json.WriteStartObject("annotations");
        json.WriteString(KitMedia.NameKey, "kit");
        json.WriteEndObject();
        json.WriteEndObject();
        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, KitBlob blob)
    {
        json.WriteStartObject();
        json.WriteString("mediaType", blob.MediaType);
        json.WriteString("digest", Digest(blob.Sha256));
        json.WriteNumber("size", blob.Size);
        if (blob.Title is not null || blob.Catalogue is not null)
        {
            json.WriteStartObject("annotations");
            if (blob.Title is not null) json.WriteString(KitMedia.TitleKey, blob.Title);
            if (blob.Catalogue is not null) json.WriteString(KitMedia.CatalogueKey, blob.Catalogue);
            if (blob.Base is not null) json.WriteString(KitMedia.BaseKey, blob.Base);
            json.WriteEndObject();
        }

        json.WriteEndObject();
    }

    private static KitBlob DescriptorOf(JsonElement json)
    {
        var digest = Text(json, "digest") ?? "";
        const string kind = "sha256:";
        if (!digest.StartsWith(kind, StringComparison.Ordinal)) throw new MalformedException("expected a sha256 digest");
        var size = json.GetProperty("size").GetInt64();
        if (size < 0) throw new MalformedException("expected a size from 0");
        json.TryGetProperty("annotations", out var notes);
        return new KitBlob(Text(json, "mediaType") ?? "", Sha256Digest.Parse(digest[kind.Length..]), size)
        {
            Title = Text(notes, KitMedia.TitleKey), Catalogue = Text(notes, KitMedia.CatalogueKey),
            Base = Text(notes, KitMedia.BaseKey),
        };
    }

    private static T Read<T>(ReadOnlyMemory<byte> text, string what, Func<JsonElement, T> read)
    {
        JsonUnicode.Require(text.Span);
        return ForeignText.Read(what, () =>
        {
            using var json = JsonDocument.Parse(text);
            return read(json.RootElement);
        });
    }

    private static string? Text(JsonElement json, string key) =>
        json.ValueKind == JsonValueKind.Object && json.TryGetProperty(key, out var value) ? value.GetString() : null;

    private static byte[] Written(Action<Utf8JsonWriter> write)
    {
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes)) write(json);
        return bytes.ToArray();
    }

    private static Sha256Digest Hash(byte[] content) => Sha256Digest.FromBytes(SHA256.HashData(content));

    private static string PathOf(byte[] content) => $"blobs/sha256/{Hash(content).Hex}";

    private static string Digest(Sha256Digest sha256) => $"sha256:{sha256.Hex}";
}
