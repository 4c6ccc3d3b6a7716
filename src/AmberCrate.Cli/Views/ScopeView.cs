using System.Text.Json;
using AmberCrate.Core.Machine;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Warns of apps that are there twice: for a person, and for everyone.</summary>
internal static class ScopeView
{
    /// <summary>Shows what else is there.</summary>
    /// <param name="output">Where to.</param>
    /// <param name="twice">The apps of the other scope that are in this one too, or will be.</param>
    /// <param name="station">This scope.</param>
    public static void ShowTwice(Output output, IReadOnlyList<InstalledApp> twice, Workstation station)
    {
        if (twice.Count == 0) return;
        var whom = Words.For(station.Other.Layout.Scope);
        output.Line(new Cell($"twice on this machine, {whom} too: {string.Join(", ", twice.Select(app => $"{app.Id} {app.Version}"))}", Tone.Attention));
        if (First(station) is { } folder) output.Line(new Cell($"  their commands start what is in {folder}, which is first on PATH", Tone.Attention));
    }

    /// <summary>Writes the same as fields.</summary>
    public static void WriteTwice(Utf8JsonWriter json, IReadOnlyList<InstalledApp> twice, Workstation station)
    {
        json.WriteStartArray("twice");
        foreach (var app in twice)
        {
            json.WriteStartObject();
            json.WriteString("id", app.Id.Text);
            json.WriteString("scope", Words.Of(station.Other.Layout.Scope));
            json.WriteString("version", app.Version.Text);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteString("first_on_path", twice.Count > 0 ? First(station) : null);
    }

    private static string? First(Workstation station) => station.Other.FirstOnPath(station.Layout, Environment.GetEnvironmentVariable("PATH") ?? "");
}
