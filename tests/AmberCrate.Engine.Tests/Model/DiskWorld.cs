using System.Collections.Concurrent;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using AmberCrate.Playhouse;

namespace AmberCrate.Engine.Tests.Model;

/// <summary>A made-up folder of cards with small apps, whose releases appear, vanish and are withdrawn.</summary>
internal sealed class DiskWorld
{
    public static readonly string[] Ids = ["cue", "gamma", "rt"];
    private static readonly string[] Versions = ["2.0", "1.5", "1.1", "1.0"];

    /// <summary>What each release needs.</summary>
    private static readonly Dictionary<string, string> Needs = new(StringComparer.Ordinal)
    {
        ["gamma 1.0"] = "rt", ["gamma 1.1"] = "rt@1..2", ["gamma 2.0"] = "rt@2..", ["cue 2.0"] = "gamma",
    };

    private static readonly ConcurrentDictionary<string, byte[]> Archives = new(StringComparer.Ordinal);
    private readonly string _folder;
    private readonly Dictionary<string, string> _states = new(StringComparer.Ordinal);
    private Dictionary<string, string>? _seen;

    public DiskWorld(string folder)
    {
        _folder = folder;
        Directory.CreateDirectory(Path.Combine(folder, "files"));
        File.WriteAllText(Path.Combine(folder, "catalogue.toml"), "catalogue = 1\ntitle = \"Made up\"\n");
        foreach (var id in Ids)
        {
            foreach (var version in Versions)
            {
                _states[$"{id} {version}"] = version == "2.0" ? "hidden" : "offered";
                File.WriteAllBytes(Path.Combine(folder, "files", $"{id}-{version}.tar.gz"), ArchiveOf(id, version));
            }

            WriteCard(id);
        }
    }

    /// <summary>Whether the machine knows that a release is withdrawn.</summary>
    public bool IsKnownWithdrawn(string id, string version) => (_seen ?? _states)[$"{id} {version}"] == "withdrawn";

    /// <summary>From now on the machine sees no change; or it sees everything again.</summary>
    public void Hide(bool isHidden) => _seen = isHidden ? new(_states, StringComparer.Ordinal) : null;

    /// <summary>Whether a release is offered.</summary>
    public bool IsOffered(string id, string version) => _states[$"{id} {version}"] == "offered";

    /// <summary>Offers a release.</summary>
    public void Show(string id, string version)
    {
        _states[$"{id} {version}"] = "offered";
        WriteCard(id);
    }

    /// <summary>Changes a release.</summary>
    public string Change(int which, int how)
    {
        var (id, version) = (Ids[which % Ids.Length], Versions[which / 3 % Versions.Length]);
        var state = (how % 5) switch { 0 => "hidden", 1 => "withdrawn", _ => "offered" };
        _states[$"{id} {version}"] = state;
        WriteCard(id);
        return $"{id} {version} is {state}";
    }

    private void WriteCard(string id)
    {
        var card = new StringBuilder($"""
            appcard = 1
            id = "{id}"
            type = "console-application"
            name = "{id}"
            summary = "Something for the stage"

            [[place.commands]]
            name = "{id}"
            path = "bin/{id}"

            """);
        foreach (var (version, at) in Versions.Select((version, at) => (version, at)))
        {
            if (_states[$"{id} {version}"] is var state && state == "hidden") continue;
            var archive = ArchiveOf(id, version);
            card.Append(CultureInfo.InvariantCulture, $"""

                [[releases]]
                version = "{version}"
                date = 2026-0{9 - at}-01
                {(state == "withdrawn" ? "withdrawn = \"it loses work\"" : "")}
                needs = [{(Needs.TryGetValue($"{id} {version}", out var need) ? $"\"{need}\"" : "")}]

                [[releases.artifacts]]
                platform = "any-linux-any"
                location = "files/{id}-{version}.tar.gz"
                format = "tar.gz"
                strip = 1
                sha256 = "{Convert.ToHexStringLower(SHA256.HashData(archive))}"
                download_size = {archive.Length}

                """);
        }

        var path = Path.Combine(_folder, $"{id}.appcard.toml");
        if (card.ToString().Contains("[[releases]]", StringComparison.Ordinal)) File.WriteAllText(path, card.ToString());
        else File.Delete(path);
    }

    private static byte[] ArchiveOf(string id, string version) => Archives.GetOrAdd($"{id} {version}", _ => ArtifactForge.Pack(
        "tar.gz", $"{id}-{version}",
        [PackedFile.Program($"bin/{id}", $"#!/bin/sh\necho {id} {version}\n"), PackedFile.Plain("README", $"{id} {version}\n")]));
}
