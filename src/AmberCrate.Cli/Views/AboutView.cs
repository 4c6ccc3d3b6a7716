using System.Text.Json;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Shows everything that is known about one app.</summary>
internal static class AboutView
{
    private const int FactWidth = 13;
    private const int DigestShown = 12;

    public static void Show(Output output, AppStudy study, bool everyRelease, Workstation station)
    {
        if (output.IsJson)
        {
            output.Json(json =>
            {
                json.WriteStartObject();
                WriteFields(json, study, station);
                json.WriteCatalogues(station.CatalogueStates());
                json.WriteEndObject();
            });
            return;
        }

        if (study.Offer is null) WriteOrphan(output, study.Installed!, station);
        else WriteText(output, study, study.Offer, everyRelease, station);
    }

    /// <summary>Writes the fields of one app into an object that is open.</summary>
    public static void WriteFields(Utf8JsonWriter json, AppStudy study, Workstation station)
    {
        json.WriteString("catalogue", study.Offer?.Catalogue.Text);
        json.WritePropertyName("card");
        if (study.Offer is { } offer) json.WriteRawValue(CardJson.Write(offer.Card));
        else json.WriteNullValue();
        WriteChoice(json, "would_install", study.Choice, station);
        json.WriteStartArray("comes_along");
        foreach (var item in study.Along) json.WriteStringValue(item.Id + "@" + item.To);
        json.WriteEndArray();
        json.WriteProblem(study.AlongProblem);
        WriteInstalled(json, "installed", study.Installed, station.Layout);
        WriteInstalled(json, "installed_other", station.Other.Find(study.Id.Text), station.Other.Layout);
        json.WriteStartArray("others");
        foreach (var other in study.Others)
        {
            json.WriteStartObject();
            json.WriteString("catalogue", other.Offer.Catalogue.Text);
            json.WriteString("developer", other.Offer.Card.Developer?.Name);
            json.WriteString("review", CardWords.ReviewStates.WordOf(other.Offer.Card.Review.State));
            WriteChoice(json, "would_install", other.Choice, station);
            json.WriteStartArray("differs_in");
            foreach (var difference in other.Differences) json.WriteStringValue(difference);
            json.WriteEndArray();
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteString("next", study.NextCommand is { } next ? CommandText.In(station.Layout.Scope, next) : null);
    }

    private static void WriteOrphan(Output output, InstalledApp installed, Workstation station)
    {
        output.Line(new Cell(installed.Name, Tone.Strong), "  " + installed.Id);
        output.Line(new Cell($"No catalogue offers it: it came from {installed.Catalogue}, and {CatalogueStanding.Words(installed.Catalogue, station.Offers())}.", Tone.Attention));
        output.Line();
        WriteInstalled(output, installed, station.Layout, isAlone: true);
        output.Line(new Cell(Words.Age(station), Tone.Quiet));
    }

    private static void WriteText(Output output, AppStudy study, Offer offer, bool everyRelease, Workstation station)
    {
        var card = offer.Card;
        output.Line(new Cell(card.Name, Tone.Strong), "  " + card.Id);
        output.Line(card.Summary);
        output.Line();
        if (card.Description is { } description)
        {
            output.Paragraphs(description, 2);
            output.Line();
        }

        foreach (var (name, value) in AppFacts.Of(card)) Fact(output, name, value);
        Fact(output, "catalogue", offer.Catalogue.Text);
        output.Line();
        WriteReleases(output, study, everyRelease);
        WriteChoice(output, study, station);
        var other = station.Other.Find(study.Id.Text);
        if (study.Installed is null) output.Line(other is null ? "Not installed." : $"Not installed {Words.For(station.Layout.Scope)}.");
        else WriteInstalled(output, study.Installed, station.Layout, other is null);
        if (other is not null)
        {
            WriteInstalled(output, other, station.Other.Layout, isAlone: false);
            if (study.Installed is not null) ScopeView.ShowTwice(output, [other], station);
        }

        WriteOthers(output, study);
        output.Line(new Cell(Words.Age(station), Tone.Quiet));
        if (study.NextCommand is { } next) output.Line("next: " + CommandText.In(station.Layout.Scope, next));
    }

    private static void WriteReleases(Output output, AppStudy study, bool every)
    {
        var all = study.Offer!.Card.Releases;
        var table = new TextTable(every ? ["release", "line", "date", "on this machine", "what is new"] : ["line", "newest", "date", "on this machine", "what is new"]);
        foreach (var release in every ? all : study.Lines)
        {
            var notes = new Cell(release.Notes?.Trim() ?? Words.NotSupplied, release.Notes is null ? Tone.Quiet : Tone.Plain);
            var state = release.Version == study.Installed?.Version ? "installed" : release.ArtifactFor(Workstation.Platform) is null ? new Cell("does not run", Tone.Attention) : "";
            if (every) table.Add(release.Version.Text, release.Line.Name, JsonFields.Date(release.Date), state, notes);
            else table.Add(release.Line.Name, release.Version.Text, JsonFields.Date(release.Date), state, notes);
        }

        output.Table(table);
        if (!every && all.Count > study.Lines.Count) output.Line(new Cell(Words.Count(all.Count, "release") + " in all; --releases shows each", Tone.Quiet));
        output.Line();
    }

    private static void WriteChoice(Output output, AppStudy study, Workstation station)
    {
        if (study.Choice is not { } choice)
        {
            output.Line(new Cell($"No release for this machine ({Workstation.Platform}).", Tone.Attention));
            output.Line();
            return;
        }

        var (release, artifact) = (choice.Release, choice.Artifact);
        output.Line("On this machine ", new Cell(study.Id + "@" + release.Version, Tone.Strong), " would be");
        Fact(output, "fetched", JsonFields.Shown(artifact.Location.Resolve(choice.Offer.Base)));
        Fact(output, "size", Words.Size(artifact.DownloadSize) + ", " + (artifact.InstalledSize is { } size ? Words.Size(size) + " unpacked" : "unpacked size not supplied"));
        Fact(output, "form", CardWords.Forms.WordOf(artifact.Form) + " for " + artifact.Platform);
        Fact(output, "sha256", artifact.Sha256.Hex);
        var needs = choice.Offer.Card.NeedsOf(release);
        Facts(output, "needs", needs, need => need.ToString(), "nothing else");
        if (study.AlongProblem is { } problem) Fact(output, "", new Cell(problem.What + " (" + (problem.Details.Count > 0 ? string.Join("; ", problem.Details) : problem.Why) + ")", Tone.Attention));
        else if (needs.Count > 0) Facts(output, "comes along", study.Along, item => item.Id + " " + item.To + ", " + Words.Size(item.Artifact!.DownloadSize), "nothing, it is there already");
        Facts(output, "placed", Placed(choice), place => station.Layout.PathOf(place.Kind, place.Name), "nothing outside the shelf");
        output.Line();
    }

    private static void WriteInstalled(Output output, InstalledApp installed, MachineLayout layout, bool isAlone)
    {
        output.Line(isAlone && layout.Scope == InstallScope.ThisUser ? "Installed is " : $"Installed {Words.For(layout.Scope)} is ", new Cell(installed.Version.Text, Tone.Strong));
        Fact(output, "since", $"{JsonFields.Time(installed.InstalledAt)} from {installed.Catalogue}");
        if (installed.IsDigestStated) Fact(output, "file", $"sha256 {installed.Sha256}, which you stated");
        Fact(output, "asked for", installed.Asked is null ? "the newest" : "@" + installed.Asked);
        Fact(output, "place", Path.Combine(layout.ShelfOf(installed.Id), installed.ShelfName));
        Facts(output, "placed", installed.Placed, item => layout.PathOf(item.Kind, item.Name), "nothing outside the shelf");
        output.Line();
    }

    private static void WriteOthers(Output output, AppStudy study)
    {
        if (study.Others.Count == 0) return;
        output.Line("Other catalogues have ", new Cell(study.Id.Text, Tone.Strong), " too:");
        var table = new TextTable("catalogue", "version", "sha256", "review", "developer", "differs in");
        table.Add(Other(study.Offer!, study.Choice, "(shown above)"));
        foreach (var other in study.Others)
            table.Add(Other(other.Offer, other.Choice, other.Differences.Count == 0 ? "nothing that matters" : new Cell(string.Join(", ", other.Differences), Tone.Attention)));
        output.Table(table);
        output.Line();
    }

    private static Cell[] Other(Offer offer, ReleaseChoice? choice, Cell last) =>
    [
        new Cell(offer.Catalogue.Text, Tone.Strong), choice?.Release.Version.Text ?? "none fits", choice is null ? "" : choice.Artifact.Sha256.Hex[..DigestShown] + "…",
        CardWords.ReviewStates.WordOf(offer.Card.Review.State), offer.Card.Developer?.Name ?? Words.NotSupplied, last,
    ];

    private static IReadOnlyList<(PlaceKind Kind, string Name, InsidePath? Source)> Placed(ReleaseChoice choice) =>
        PlacementList.Places(choice.Offer.Card.Id, choice.Offer.Card.PlacementOf(choice.Release));

    private static void Fact(Output output, string name, Cell value) => output.Line(new Cell("  " + name.PadRight(FactWidth), Tone.Quiet), value);

    private static void Facts<T>(Output output, string name, IReadOnlyList<T> values, Func<T, string> text, string none)
    {
        for (var at = 0; at < values.Count; at++) Fact(output, at == 0 ? name : "", text(values[at]));
        if (values.Count == 0) Fact(output, name, none);
    }

    private static void WriteChoice(Utf8JsonWriter json, string key, ReleaseChoice? choice, Workstation station)
    {
        json.WritePropertyName(key);
        if (choice is null)
        {
            json.WriteNullValue();
            return;
        }

        json.WriteStartObject();
        json.WriteString("version", choice.Release.Version.Text);
        json.WriteString("source", JsonFields.Shown(choice.Artifact.Location.Resolve(choice.Offer.Base)));
        json.WriteNumber("download_size", choice.Artifact.DownloadSize);
        json.WriteString("sha256", choice.Artifact.Sha256.Hex);
        json.WriteStartArray("places");
        foreach (var place in Placed(choice)) json.WriteStringValue(station.Layout.PathOf(place.Kind, place.Name));
        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static void WriteInstalled(Utf8JsonWriter json, string key, InstalledApp? installed, MachineLayout layout)
    {
        json.WritePropertyName(key);
        if (installed is null)
        {
            json.WriteNullValue();
            return;
        }

        json.WriteStartObject();
        json.WriteString("scope", Words.Of(layout.Scope));
        json.WriteString("version", installed.Version.Text);
        json.WriteString("catalogue", installed.Catalogue.Text);
        json.WriteString("asked", installed.Asked?.ToString());
        json.WriteString("sha256", installed.Sha256.Hex);
        json.WriteBoolean("sha256_stated", installed.IsDigestStated);
        json.WriteString("since", JsonFields.Time(installed.InstalledAt));
        json.WriteString("place", Path.Combine(layout.ShelfOf(installed.Id), installed.ShelfName));
        json.WriteStartArray("places");
        foreach (var item in installed.Placed) json.WriteStringValue(layout.PathOf(item.Kind, item.Name));
        json.WriteEndArray();
        json.WriteEndObject();
    }
}
