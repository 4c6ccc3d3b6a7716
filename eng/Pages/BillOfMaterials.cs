using System.Text.Json;
using AmberCrate.Core.Inventories;
using static AmberCrate.Core.Inventories.JsonInventory;

namespace AmberCrate.Pages;

/// <summary>What the native executable is made of, as a CycloneDX 1.6 document (ECMA-424), JSON.</summary>
/// <param name="repository">The working tree. What counts is the lock file of the program.</param>
/// <param name="runtime">What the executable is made for, such as <c>linux-x64</c>.</param>
/// <param name="linked">The package URLs (ECMA-427) of the distribution's libraries that are linked in.</param>
internal sealed class BillOfMaterials(string repository, string runtime, IReadOnlyList<string> linked)
{
    private const string Program = "acrate", Compiler = "Microsoft.DotNet.ILCompiler";

    /// <summary>What takes part in the build, and leaves nothing in the executable.</summary>
    private static readonly string[] s_tools = ["Meziantou.Analyzer", "Microsoft.NET.ILLink.Tasks", Compiler];

    private sealed record Part(string Name, string Version, string PackageUrl, string? Sha512);

    /// <summary>The document.</summary>
    /// <param name="version">The version of the program.</param>
    /// <param name="made">When the sources were last changed.</param>
    public string Write(string version, DateTimeOffset made)
    {
        List<Part> parts = [.. Packages(), .. linked.Select(Linked)];
        return JsonInventory.Write(json =>
        {
            CycloneDx.Begin(json, SerialOf(parts.Select(part => part.PackageUrl).Prepend(version)));
            json.WriteStartObject("metadata");
            json.WriteString("timestamp", Time(made));
            json.WritePropertyName("component");
            Texts(json, ("type", "application"), ("bom-ref", Program), ("name", Program), ("version", version));
            json.WriteEndObject();
            Array(json, "components", parts, part => Write(json, part));
            json.WriteStartArray("dependencies");
            json.WriteStartObject();
            json.WriteString("ref", Program);
            Array(json, "dependsOn", parts, part => json.WriteStringValue(part.PackageUrl));
            json.WriteEndObject();
            json.WriteEndArray();
            json.WriteEndObject();
        });
    }

    private static void Write(Utf8JsonWriter json, Part part)
    {
        json.WriteStartObject();
        json.WriteString("type", "library");
        json.WriteString("bom-ref", part.PackageUrl);
        json.WriteString("name", part.Name);
        json.WriteString("version", part.Version);
        json.WriteString("scope", "required");
        if (part.Sha512 is { } digest) Array(json, "hashes", [digest], one => Texts(json, ("alg", "SHA-512"), ("content", one)));
        json.WriteString("purl", part.PackageUrl);
        json.WriteEndObject();
    }

    /// <summary>The packages in the lock file, and the runtime, which comes with the compiler and has its version.</summary>
    private IEnumerable<Part> Packages()
    {
        using var file = JsonDocument.Parse(
            File.ReadAllBytes(Path.Combine(repository, "src", "AmberCrate.Cli", "packages.lock.json")));
        var locked = file.RootElement.GetProperty("dependencies").EnumerateObject()
            .Single(framework => !framework.Name.Contains('/', StringComparison.Ordinal)).Value;
        foreach (var package in locked.EnumerateObject())
        {
            if (!package.Value.TryGetProperty("resolved", out var resolved)) continue;
            var version = resolved.GetString()!;
            if (package.Name == Compiler)
            {
                var name = $"Microsoft.NETCore.App.Runtime.NativeAOT.{runtime}";
                yield return new Part(name, version, $"pkg:nuget/{name}@{version}", Sha512: null);
            }

            // The package of this name brings SQLite's own code, which gives way to the distribution's.
            if (s_tools.Contains(package.Name)
                || (package.Name == "SQLite" && linked.Any(one => one.Contains("/sqlite", StringComparison.Ordinal)))) continue;
            yield return new Part(
                package.Name, version, $"pkg:nuget/{package.Name}@{version}",
                Convert.ToHexStringLower(Convert.FromBase64String(package.Value.GetProperty("contentHash").GetString()!)));
        }
    }

    /// <summary>A library of the distribution: <c>pkg:TYPE/DISTRIBUTION/NAME@VERSION?QUALIFIERS</c>.</summary>
    private static Part Linked(string address)
    {
        var named = address.Split('?')[0].Split('/')[^1].Split('@');
        return new Part(named[0], Uri.UnescapeDataString(named[1]), address, Sha512: null);
    }
}
