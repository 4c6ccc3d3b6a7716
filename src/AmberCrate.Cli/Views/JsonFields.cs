using System.Text.Json;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Cli.Views;

/// <summary>The fields that several JSON documents share, so that they are named alike everywhere. See docs/json.md.</summary>
internal static class JsonFields
{
    public static void WriteFields(this Utf8JsonWriter json, Problem problem)
    {
        json.WriteString("code", Code(problem.Code));
        json.WriteString("what", problem.What);
        json.WriteString("why", problem.Why);
        json.WriteString("remedy", problem.Remedy);
        json.WriteStartArray("details");
        foreach (var detail in problem.Details) json.WriteStringValue(detail);
        json.WriteEndArray();
    }

    /// <summary>Writes why something failed, where it did.</summary>
    public static void WriteProblem(this Utf8JsonWriter json, Problem? problem)
    {
        if (problem is null) return;
        json.WriteStartObject("problem");
        json.WriteFields(problem);
        json.WriteEndObject();
    }

    public static void WriteFields(this Utf8JsonWriter json, PlanItem item)
    {
        json.WriteString("id", item.Id);
        json.WriteString("action", Words.Of(item.Action));
        json.WriteString("from", item.From?.Text);
        json.WriteString("to", item.To?.Text);
        json.WriteString("catalogue", (item.Offer?.Catalogue ?? item.Installed?.Catalogue)?.Text);
        json.WriteString("asked", item.Asked?.ToString());
        if (item.Artifact is { } artifact)
        {
            json.WriteNumber("download_size", artifact.DownloadSize);
            json.WriteString("source", Shown(artifact.Location.Resolve(item.Offer!.Base)));
            if (artifact.InstalledSize is { } size) json.WriteNumber("installed_size", size);
            else json.WriteNull("installed_size");
            json.WriteStartArray("mirrors");
            foreach (var mirror in artifact.Mirrors) json.WriteStringValue(Shown(mirror.Resolve(item.Offer!.Base)));
            json.WriteEndArray();
            json.WriteString("sha256", item.FileDigest!.Hex);
            json.WriteBoolean("sha256_stated", item.StatedSha256 is not null);
            json.WriteStartArray("attention");
            foreach (var call in item.Offer!.Card.Attention ?? []) json.WriteStringValue(CardWords.Attentions.WordOf(call));
            json.WriteEndArray();
        }

        json.WriteStartArray("needed_by");
        foreach (var id in item.NeededBy) json.WriteStringValue(id);
        json.WriteEndArray();
        json.WriteStartArray("also_in");
        foreach (var (catalogue, version) in item.AlsoIn)
        {
            json.WriteStartObject();
            json.WriteString("catalogue", catalogue.Text);
            json.WriteString("version", version?.Text);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteString("note", item.Note);
    }

    public static void WriteCatalogues(this Utf8JsonWriter json, IEnumerable<CatalogueState> catalogues)
    {
        json.WriteStartArray("catalogues");
        foreach (var catalogue in catalogues)
        {
            json.WriteStartObject();
            json.WriteString("name", catalogue.Name.Text);
            json.WriteString("refreshed", Time(catalogue.Refreshed));
            json.WriteBoolean("reached", !catalogue.IsBehind);
            json.WriteNumber("apps", catalogue.Apps);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    public static string Date(DateOnly date) => date.ToString("yyyy-MM-dd");

    public static string Time(DateTimeOffset time) => time.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'");

    public static string Kind(AppKind kind) => CardWords.Kinds.WordOf(kind);

    /// <summary>An address as people write it: a plain path for files.</summary>
    public static string Shown(Uri address) => address.IsFile ? address.LocalPath : address.AbsoluteUri;

    private static string Code(ProblemCode code) => code switch
    {
        ProblemCode.BadCommandLine => "bad-command-line",
        ProblemCode.NothingMatched => "nothing-matched",
        ProblemCode.Ambiguous => "ambiguous",
        ProblemCode.Refused => "refused",
        ProblemCode.NotVerified => "not-verified",
        ProblemCode.Unreachable => "unreachable",
        ProblemCode.NoRights => "no-rights",
        ProblemCode.AppOpen => "app-open",
        ProblemCode.Locked => "locked",
        ProblemCode.StateNeedsAttention => "state-needs-attention",
        _ => "interrupted",
    };
}
