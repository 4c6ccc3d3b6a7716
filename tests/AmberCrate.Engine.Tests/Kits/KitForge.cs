using System.Formats.Tar;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;

namespace AmberCrate.Tests.Kits;

/// <summary>Changes kits, for attackers who have them on the way. It shares no code with the program.</summary>
internal static class KitForge
{
    /// <summary>Writes a kit again with other layers, and the digests that belong to them: null leaves a layer out.</summary>
    public static void Change(string from, string to, Func<JsonObject, byte[], byte[]?> change,
        Func<IReadOnlyList<JsonObject>, Func<JsonObject, byte[]>, (JsonObject Layer, byte[] Content)>? add = null)
    {
        var files = new Dictionary<string, byte[]>(StringComparer.Ordinal);
        using (var reader = new TarReader(File.OpenRead(from)))
        {
            while (reader.GetNextEntry() is { } entry)
            {
                using var memory = new MemoryStream();
                entry.DataStream?.CopyTo(memory);
                files[entry.Name] = memory.ToArray();
            }
        }

        var index = JsonNode.Parse(files["index.json"])!;
        var manifest = JsonNode.Parse(files[PathOf(index["manifests"]![0]!)])!;
        var layers = new JsonArray();
        foreach (var layer in manifest["layers"]!.AsArray().Select(layer => layer!.DeepClone().AsObject()))
        {
            if (change(layer, files[PathOf(layer)]) is not { } content) continue;
            Put(layer, content);
            layers.Add(layer);
        }

        if (add is not null)
        {
            var (layer, content) = add(
                [.. manifest["layers"]!.AsArray().Select(one => one!.AsObject())], one => files[PathOf(one)]);
            Put(layer, content);
            layers.Add(layer);
        }

        manifest["layers"] = layers;
        Put(index["manifests"]![0]!.AsObject(), Encoding.UTF8.GetBytes(manifest.ToJsonString()));
        files["index.json"] = Encoding.UTF8.GetBytes(index.ToJsonString());
        using var writer = new TarWriter(File.Create(to), TarEntryFormat.Ustar);
        foreach (var (name, content) in files)
            writer.WriteEntry(new UstarTarEntry(TarEntryType.RegularFile, name) { DataStream = new MemoryStream(content) });

        void Put(JsonObject descriptor, byte[] content)
        {
            descriptor["digest"] = $"sha256:{Convert.ToHexStringLower(SHA256.HashData(content))}";
            descriptor["size"] = content.Length;
            files[PathOf(descriptor)] = content;
        }

        static string PathOf(JsonNode descriptor) =>
            $"blobs/sha256/{descriptor["digest"]!.GetValue<string>()["sha256:".Length..]}";
    }
}
