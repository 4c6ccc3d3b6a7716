using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text;

namespace AmberCrate.Playhouse;

/// <summary>
/// Makes the catalogues of Tallow Lane Playhouse: cards with real artifacts beside them. A card of the world is an app
/// card. There, a comment <c>#@ artifact FORM</c> is replaced by the artifact of a release, <c>#@ data FORM</c> for a second
/// one with the data of its program, and <c>#@ later</c> parts off the releases that come out during the morning.
/// </summary>
public sealed class World(string source)
{
    private const string CardEnding = ".appcard.toml";
    private const string Platform = "any-linux-any";
    private const int SoundSize = 40_000;

    private readonly ConcurrentDictionary<(string Format, string Id, string Version, bool IsData), byte[]> _packed = [];

    /// <summary>The world that lies beside this program.</summary>
    public static World Shipped { get; } = new(Path.Combine(AppContext.BaseDirectory, "world"));

    /// <summary>Writes one catalogue: its cards, and the artifacts of every release that is out.</summary>
    /// <param name="catalogue">The catalogue: house or guild.</param>
    /// <param name="folder">The folder to write to.</param>
    /// <param name="withLater">Whether the later releases are out.</param>
    public void Write(string catalogue, string folder, bool withLater)
    {
        Directory.CreateDirectory(Path.Combine(folder, "files"));
        File.Copy(Path.Combine(source, catalogue, "catalogue.toml"), Path.Combine(folder, "catalogue.toml"), overwrite: true);
        foreach (var card in Directory.EnumerateFiles(Path.Combine(source, catalogue), "*" + CardEnding)
            .Order(StringComparer.Ordinal))
            File.WriteAllText(
                Path.Combine(folder, Path.GetFileName(card)),
                Fill(File.ReadAllLines(card), Path.GetFileName(card)[..^CardEnding.Length], folder, withLater));
    }

    private string Fill(string[] lines, string id, string folder, bool withLater)
    {
        var card = new StringBuilder();
        var (name, version) = ("", "");
        foreach (var line in lines)
        {
            if (line.StartsWith("#@ later", StringComparison.Ordinal))
            {
                if (!withLater) break;
                continue;
            }

            if (name.Length == 0 && line.StartsWith("name = ", StringComparison.Ordinal)) name = line.Split('"')[1];
            if (line.StartsWith("version = ", StringComparison.Ordinal)) version = line.Split('"')[1];
            card.Append(line.Split(' ') is ["#@", "artifact" or "data", var format]
                ? Artifact(format, id, name, version, folder, isData: line.StartsWith("#@ data", StringComparison.Ordinal))
                : line).Append('\n');
        }

        return card.ToString();
    }

    private string Artifact(string format, string id, string name, string version, string folder, bool isData)
    {
        var files = isData ? Data(id) : Files(id, name, version);

        // Who writes the world often, as tests do, packs each artifact once.
        var bytes = _packed.GetOrAdd(
            (format, id, version, isData), one => ArtifactForge.Pack(one.Format, $"{one.Id}-{one.Version}", files));
        var stem = isData ? $"{id}-data-{version}" : $"{id}-{version}";
        var location = format == "executable" ? $"files/{stem}" : $"files/{stem}.{format}";
        File.WriteAllBytes(Path.Combine(folder, location), bytes);
        return $"""

            [[releases.artifacts]]
            platform = "{Platform}"
            location = "{location}"
            format = "{format}"
            sha256 = "{Convert.ToHexStringLower(SHA256.HashData(bytes))}"
            download_size = {bytes.Length}
            installed_size = {files.Sum(file => file.Content.Length)}
            {(format == "executable" ? $"filename = \"{id}\"" : "strip = 1")}
            """;
    }

    private List<PackedFile> Files(string id, string name, string version)
    {
        var font = Path.Combine(source, "programs", $"{id}.bdf");
        if (File.Exists(font)) return [PackedFile.Plain($"share/fonts/{id}.bdf", File.ReadAllText(font))];
        var text = File.ReadAllText(Path.Combine(source, "programs", $"{id}.sh"))
            .Replace("@NAME@", name, StringComparison.Ordinal)
            .Replace("@VERSION@", version, StringComparison.Ordinal);
        return
        [
            PackedFile.Program($"bin/{id}", text),
            PackedFile.Plain($"share/icons/{id}.svg", Icon(id)),
            PackedFile.Plain(
                $"share/applications/{id}.desktop",
                $"[Desktop Entry]\nType=Application\nName={name}\nExec={id} %F\nIcon={id}\nTerminal=true\nCategories=Utility;\n"),
            PackedFile.Plain("README", $"{name} {version}\n"),
        ];
    }

    /// <summary>A sound that no packer makes smaller, always the same.</summary>
    private static List<PackedFile> Data(string id)
    {
        var rain = new byte[SoundSize];
        new Random(id.Length).NextBytes(rain);
        return [new PackedFile($"share/{id}/rain.raw", rain, false)];
    }

    /// <summary>A curtain in a colour of the app's own.</summary>
    private static string Icon(string id)
    {
        var hue = id.Sum(c => c) * 37 % 360;
        return $"""
            <svg xmlns="http://www.w3.org/2000/svg" width="64" height="64" viewBox="0 0 64 64">
              <rect width="64" height="64" rx="10" fill="hsl({hue}, 45%, 28%)"/>
              <path d="M8 10h48v6H8zM10 16q6 18 0 38h10q6-20 4-38zM54 16q-6 18 0 38H44q-6-20-4-38z" fill="hsl({hue}, 55%, 62%)"/>
            </svg>

            """;
    }
}
