using System.Text.Json;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Engine.Running;

namespace AmberCrate.Cli.Views;

/// <summary>Shows everything that is known about one app.</summary>
internal static class AboutView
{
    private const int ReleasesShown = 6;

    public static void Show(Output output, Subject subject, Workstation station)
    {
        if (output.IsJson) WriteJson(output, subject, station);
        else WriteText(output, subject, station);
    }

    /// <summary>Shows an installed app that no catalogue offers any more.</summary>
    public static void ShowInstalledOnly(Output output, InstalledApp installed, Workstation station)
    {
        if (output.IsJson)
        {
            output.Json(json =>
            {
                json.WriteStartObject();
                json.WriteNull("catalogue");
                json.WriteNull("card");
                json.WriteNull("would_install");
                WriteInstalled(json, installed, station);
                json.WriteCatalogues(station.CatalogueStates());
                json.WriteEndObject();
            });
            return;
        }

        output.Line(new Cell(installed.Name, Tone.Strong), $"  {installed.Id}");
        output.Line(new Cell($"No catalogue offers it any more; it came from {installed.Catalogue}.", Tone.Attention));
        output.Line();
        WriteInstalled(output, installed, station);
        output.Line(new Cell(Words.Age(station.CatalogueStates(), station.Clock.GetUtcNow()), Tone.Quiet));
    }

    private static void WriteText(Output output, Subject subject, Workstation station)
    {
        var card = subject.Offer.Card;
        output.Line(new Cell(card.Name, Tone.Strong), $"  {card.Id}");
        output.Line(card.Summary);
        output.Line();
        if (card.Description is { } description)
        {
            output.Paragraphs(description, 2);
            output.Line();
        }

        foreach (var (name, value) in Facts(subject)) Fact(output, name, value);
        output.Line();
        WriteReleases(output, subject);
        WriteArtifact(output, subject, station);
        if (subject.Installed is null) output.Line("Not installed.");
        else WriteInstalled(output, subject.Installed, station);
        output.Line(new Cell(Words.Age(station.CatalogueStates(), station.Clock.GetUtcNow()), Tone.Quiet));
        if (Next(subject) is { } next) output.Line($"next: {next}");
    }

    private static IEnumerable<(string Name, Cell Value)> Facts(Subject subject)
    {
        var card = subject.Offer.Card;
        yield return ("kind", Words.Of(card.Kind));
        yield return ("developer", Said(card.Developer is { } developer ? developer.Id is null ? developer.Name : $"{developer.Name} ({developer.Id})" : null));
        yield return ("homepage", Said(card.Homepage));
        yield return ("licence", Said(card.Licence));
        yield return ("sign-in", card.SignIn is null ? Said(null) : Words.Of(card.SignIn));
        yield return ("categories", Said(card.Categories.Count == 0 ? null : string.Join(", ", card.Categories)));
        yield return ("keywords", Said(card.Keywords.Count == 0 ? null : string.Join(", ", card.Keywords)));
        yield return ("review", Review(card.Review));
        yield return ("catalogue", subject.Others.Count == 0 ? subject.Offer.Catalogue.Text : $"{subject.Offer.Catalogue}; also in {string.Join(", ", subject.Others.Select(other => other.Catalogue))}");
    }

    private static void WriteReleases(Output output, Subject subject)
    {
        var table = new TextTable("release", "line", "date", "what is new");
        foreach (var release in subject.Offer.Card.Releases.Take(ReleasesShown))
        {
            var mark = release.Version == subject.Installed?.Version ? " (installed)" : "";
            var notes = release.Notes?.Trim() ?? Words.NotSupplied;
            table.Add(release.Version.Text + mark, release.Line.Name, JsonFields.Date(release.Date), new Cell(notes, release.Notes is null ? Tone.Quiet : Tone.Plain));
        }

        output.Table(table);
        var more = subject.Offer.Card.Releases.Count - ReleasesShown;
        if (more > 0) output.Line(new Cell($"{Words.Count(more, "older release")} not shown; --json has them all", Tone.Quiet));
        output.Line();
    }

    private static void WriteArtifact(Output output, Subject subject, Workstation station)
    {
        if (subject.Choice is not { } choice)
        {
            output.Line(new Cell($"No release for this machine ({Workstation.Platform}).", Tone.Attention));
            output.Line();
            return;
        }

        var card = subject.Offer.Card;
        var (release, artifact) = (choice.Release, choice.Artifact);
        output.Line("On this machine ", new Cell($"{card.Id}@{release.Version}", Tone.Strong), " would be");
        Fact(output, "fetched", JsonFields.Shown(artifact.Location.Resolve(subject.Offer.Base)));
        Fact(output, "size", Words.Size(artifact.DownloadSize) + (artifact.InstalledSize is { } size ? $", {Words.Size(size)} unpacked" : ", unpacked size not supplied"));
        Fact(output, "form", $"{CardWords.Forms.WordOf(artifact.Form)} for {artifact.Platform}");
        Fact(output, "sha256", artifact.Sha256.Hex);
        var placed = Placed(card.PlacementOf(release), station.Layout).ToList();
        for (var at = 0; at < placed.Count; at++) Fact(output, at == 0 ? "placed" : "", placed[at]);
        if (placed.Count == 0) Fact(output, "placed", "nothing outside the shelf");
        output.Line();
    }

    private static void WriteInstalled(Output output, InstalledApp installed, Workstation station)
    {
        output.Line("Installed is ", new Cell(installed.Version.Text, Tone.Strong));
        Fact(output, "since", $"{JsonFields.Time(installed.InstalledAt)} from {installed.Catalogue}");
        Fact(output, "asked for", installed.Asked is null ? "the newest" : $"@{installed.Asked}");
        Fact(output, "place", Path.Combine(station.Layout.ShelfOf(installed.Id), installed.ShelfName));
        for (var at = 0; at < installed.Placed.Count; at++)
            Fact(output, at == 0 ? "placed" : "", station.Layout.PathOf(installed.Placed[at].Kind, installed.Placed[at].Name));
        output.Line();
    }

    private static string? Next(Subject subject)
    {
        var id = subject.Offer.Card.Id;
        if (subject.Choice is not { } choice) return null;
        if (subject.Installed is not { } installed) return $"acrate install {id}";
        return choice.Release.Version > installed.Version ? $"acrate upgrade {id}" : null;
    }

    private static IEnumerable<string> Placed(Placement placement, MachineLayout layout) => placement.Commands.Select(command => layout.PathOf(PlaceKind.Command, command.Name.Text))
        .Concat(placement.DesktopEntries.Select(entry => layout.PathOf(PlaceKind.DesktopEntry, $"{entry.Name}.desktop")))
        .Concat(placement.Icons.Select(icon => layout.PathOf(PlaceKind.Icon, PlacementList.IconName(icon))));

    private static void Fact(Output output, string name, Cell value) => output.Line(new Cell($"  {name,-12}", Tone.Quiet), value);

    private static Cell Said(string? text) => text is null ? new Cell(Words.NotSupplied, Tone.Quiet) : new Cell(text);

    private static Cell Review(Review review)
    {
        var state = CardWords.ReviewStates.WordOf(review.State);
        var text = state + (review.Date is { } date ? $" {JsonFields.Date(date)}" : "") + (review.By is { } by ? $" by {by}" : "");
        return new Cell(text, review.State == ReviewState.Reviewed ? Tone.Plain : Tone.Attention);
    }

    private static void WriteJson(Output output, Subject subject, Workstation station) => output.Json(json =>
    {
        json.WriteStartObject();
        json.WriteString("catalogue", subject.Offer.Catalogue.Text);
        json.WriteStartArray("also_in");
        foreach (var other in subject.Others) json.WriteStringValue(other.Catalogue.Text);
        json.WriteEndArray();
        json.WritePropertyName("card");
        json.WriteRawValue(CardJson.Write(subject.Offer.Card));
        json.WritePropertyName("would_install");
        if (subject.Choice is { } choice)
        {
            json.WriteStartObject();
            json.WriteString("version", choice.Release.Version.Text);
            json.WriteString("source", JsonFields.Shown(choice.Artifact.Location.Resolve(subject.Offer.Base)));
            json.WriteNumber("download_size", choice.Artifact.DownloadSize);
            json.WriteString("sha256", choice.Artifact.Sha256.Hex);
            json.WriteStartArray("places");
            foreach (var path in Placed(subject.Offer.Card.PlacementOf(choice.Release), station.Layout)) json.WriteStringValue(path);
            json.WriteEndArray();
            json.WriteEndObject();
        }
        else
        {
            json.WriteNullValue();
        }

        WriteInstalled(json, subject.Installed, station);
        json.WriteCatalogues(station.CatalogueStates());
        json.WriteEndObject();
    });

    private static void WriteInstalled(Utf8JsonWriter json, InstalledApp? installed, Workstation station)
    {
        json.WritePropertyName("installed");
        if (installed is not null)
        {
            json.WriteStartObject();
            json.WriteString("version", installed.Version.Text);
            json.WriteString("catalogue", installed.Catalogue.Text);
            json.WriteString("asked", installed.Asked?.ToString());
            json.WriteString("since", JsonFields.Time(installed.InstalledAt));
            json.WriteString("place", Path.Combine(station.Layout.ShelfOf(installed.Id), installed.ShelfName));
            json.WriteStartArray("places");
            foreach (var item in installed.Placed) json.WriteStringValue(station.Layout.PathOf(item.Kind, item.Name));
            json.WriteEndArray();
            json.WriteEndObject();
        }
        else
        {
            json.WriteNullValue();
        }
    }

    /// <summary>What is shown.</summary>
    /// <param name="Offer">The app as its catalogue offers it.</param>
    /// <param name="Choice">What this machine would get; null where nothing fits.</param>
    /// <param name="Installed">The app as installed; null where it is not.</param>
    /// <param name="Others">Offers of the same id in other catalogues.</param>
    internal sealed record Subject(Offer Offer, ReleaseChoice? Choice, InstalledApp? Installed, IReadOnlyList<Offer> Others);
}
