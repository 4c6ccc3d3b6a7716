using System.Text.Encodings.Web;
using System.Text.Json;
using AmberCrate.Core.Searching;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Catalogues;

/// <summary>The entry document of a published catalogue: small, fetched first, and the only file whose name is fixed.</summary>
/// <param name="Settings">What the catalogue says about itself.</param>
/// <param name="Apps">How many apps it offers.</param>
/// <param name="Parts">Its parts, lower layers first.</param>
public sealed record CatalogueDocument(CatalogueSettings Settings, int Apps, IReadOnlyList<PartListing> Parts)
{
    /// <summary>The bundles that it carries, in the order of their names.</summary>
    public IReadOnlyList<BundleListing> Bundles { get; init; } = [];

    /// <summary>How many machines have its apps; null if not counted.</summary>
    public Popularity? Popularity { get; init; }

    /// <summary>The file's name.</summary>
    public const string FileName = "catalogue.json";

    /// <summary>The version of the format that this program reads and writes.</summary>
    public const int FormatVersion = 1;

    /// <summary>The largest entry document that is accepted, in bytes.</summary>
    public const int MaxSize = 16 << 20;

    private const int MostTexts = 100;

    private static readonly JsonWriterOptions Layout =
        new() { Indented = true, NewLine = "\n", Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>Writes the document. The same catalogue gives the same bytes.</summary>
    public byte[] Write()
    {
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, Layout))
        {
            json.WriteStartObject();
            json.WriteNumber("catalogue", FormatVersion);
            json.WriteString("title", Settings.Title);
            if (Settings.Name is not null) json.WriteString("name", Settings.Name.Text);
            if (Settings.Summary is not null) json.WriteString("summary", Settings.Summary);
            if (Settings.Homepage is not null) json.WriteString("homepage", Settings.Homepage);
            json.WriteNumber("apps", Apps);
            json.WriteStartArray("parts");
            foreach (var part in Parts)
            {
                json.WriteStartObject();
                json.WriteString("sha256", part.Sha256.Hex);
                json.WriteNumber("size", part.Size);
                json.WriteNumber("content_size", part.ContentSize);
                json.WriteNumber("lines", part.Lines);
                if (part.Layer > 0) json.WriteNumber("layer", part.Layer);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            if (Bundles.Count > 0) WriteBundles(json);
            if (Settings.Purposes.Count > 0) WritePurposes(json);
            if (Popularity is not null) WritePopularity(json, Popularity);
            json.WriteEndObject();
        }

        stream.WriteByte((byte)'\n');
        return stream.ToArray();
    }

    private void WriteBundles(Utf8JsonWriter json)
    {
        json.WriteStartArray("bundles");
        foreach (var bundle in Bundles)
        {
            json.WriteStartObject();
            json.WriteString("name", bundle.Name);
            json.WriteString("sha256", bundle.Sha256.Hex);
            json.WriteNumber("size", bundle.Size);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private void WritePurposes(Utf8JsonWriter json)
    {
        json.WriteStartArray("purposes");
        foreach (var purpose in Settings.Purposes)
        {
            json.WriteStartObject();
            foreach (var (key, texts) in new[]
            {
                ("asked", purpose.Asked), ("categories", purpose.Categories), ("words", purpose.Words),
            })
            {
                json.WriteStartArray(key);
                foreach (var text in texts) json.WriteStringValue(text);
                json.WriteEndArray();
            }

            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WritePopularity(Utf8JsonWriter json, Popularity popularity)
    {
        json.WriteStartObject("popularity");
        json.WriteNumber("machines", popularity.Machines);
        json.WriteStartObject("apps");
        foreach (var (app, machines) in popularity.Apps) json.WriteNumber(app, machines);
        json.WriteEndObject();
        json.WriteEndObject();
    }

    private static Popularity? ReadPopularity(JsonElement root)
    {
        if (!root.TryGetProperty("popularity", out var element)) return null;
        var machines = (int)Number(element, "machines", int.MaxValue);
        var apps = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var app in element.GetProperty("apps").EnumerateObject())
        {
            if (!AppId.TryParse(app.Name, out _) || !app.Value.TryGetInt32(out var count) || count < 1 || count > machines
                || !apps.TryAdd(app.Name, count))
                throw new MalformedException($"popularity: expected ids, each once, with a number from 1 to {machines}");
        }

        return apps.Count <= Popularity.Most
            ? new Popularity(machines, apps)
            : throw new MalformedException($"popularity: expected at most {Popularity.Most} apps");
    }

    /// <summary>Reads a document.</summary>
    /// <exception cref="MalformedException">It is not one; the message says what was expected.</exception>
    public static CatalogueDocument Read(ReadOnlyMemory<byte> bytes)
    {
        JsonUnicode.Require(bytes.Span);
        return ForeignText.Read("the entry document", () =>
        {
            using var json = JsonDocument.Parse(bytes);
            return Read(json.RootElement);
        });
    }

    private static CatalogueDocument Read(JsonElement root)
    {
        var version = Number(root, "catalogue", long.MaxValue);
        if (version != FormatVersion) throw new MalformedException(
            $"catalogue: expected format {FormatVersion}, found {version}; a newer acrate may read it");
        var settings = new CatalogueSettings(
            Text(root, "title") ?? throw new MalformedException("title: expected a string"), Text(root, "summary"),
            Text(root, "homepage"))
        {
            Name = Text(root, "name") is { } name ? CatalogueName.Parse(name) : null, Purposes = ReadPurposes(root),
        };
        var apps = (int)Number(root, "apps", int.MaxValue);
        var parts = new List<PartListing>();
        foreach (var item in root.GetProperty("parts").EnumerateArray())
        {
            parts.Add(new PartListing(
                Sha256Digest.Parse(Text(item, "sha256") ?? ""),
                Number(item, "size", PartListing.MaxSize),
                Number(item, "content_size", PartListing.MaxContentSize),
                (int)Number(item, "lines", int.MaxValue),
                item.TryGetProperty("layer", out _) ? (int)Number(item, "layer", PartListing.MaxLayer) : 0));
        }

        if (parts.Zip(parts.Skip(1)).Any(pair => pair.First.Layer > pair.Second.Layer))
            throw new MalformedException("parts: expected lower layers first");
        return parts.DistinctBy(part => part.Sha256).Count() == parts.Count
            ? new CatalogueDocument(settings, apps, parts) { Bundles = ReadBundles(root), Popularity = ReadPopularity(root) }
            : throw new MalformedException("parts: expected each part once");
    }

    private static List<BundleListing> ReadBundles(JsonElement root)
    {
        if (!root.TryGetProperty("bundles", out var array)) return [];
        List<BundleListing> bundles = [.. array.EnumerateArray().Select(item => new BundleListing(
            Text(item, "name") is { } name && BundleListing.IsName(name)
                ? name
                : throw new MalformedException("bundles: expected a name of lower-case letters, digits and hyphens"),
            Sha256Digest.Parse(Text(item, "sha256") ?? ""), Number(item, "size", BundleListing.MaxSize)))];
        if (bundles.Count > BundleListing.Most) throw new MalformedException($"bundles: expected at most {BundleListing.Most}");
        return bundles.DistinctBy(bundle => bundle.Name).Count() == bundles.Count
            ? bundles
            : throw new MalformedException("bundles: expected each name once");
    }

    /// <summary>Purposes are folded again: what a server wrote goes into the expressions of a search.</summary>
    private static List<Purpose> ReadPurposes(JsonElement root)
    {
        if (!root.TryGetProperty("purposes", out var array)) return [];
        List<Purpose> purposes = [.. array.EnumerateArray().Take(PurposeList.Most + 1)
            .Select(item => Purpose.Create(Texts(item, "asked"), Texts(item, "categories"), Texts(item, "words")))];
        return purposes.Count <= PurposeList.Most
            ? purposes
            : throw new MalformedException($"purposes: expected at most {PurposeList.Most}");
    }

    private static IEnumerable<string> Texts(JsonElement element, string key) =>
        element.TryGetProperty(key, out var array)
            ? array.EnumerateArray().Take(MostTexts).Select(item => item.GetString() is { Length: <= 100 } text
                ? text
                : throw new MalformedException($"{key}: expected strings of at most 100 characters"))
            : [];

    private static string? Text(JsonElement element, string key) =>
        element.TryGetProperty(key, out var value) ? value.GetString() : null;

    private static long Number(JsonElement element, string key, long most) =>
        element.GetProperty(key).TryGetInt64(out var number) && number >= 1 && number <= most
            ? number
            : throw new MalformedException($"{key}: expected a whole number from 1 to {most}");
}
