using AmberCrate.Core.Planning;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Operations;

namespace AmberCrate.Cli.Views;

/// <summary>Shows several apps side by side.</summary>
internal static class CompareView
{
    public static void Show(Output output, IReadOnlyList<AppStudy> studies, Workstation station)
    {
        if (output.IsJson)
        {
            output.Json(json =>
            {
                json.WriteStartObject();
                json.WriteStartArray("apps");
                foreach (var study in studies)
                {
                    json.WriteStartObject();
                    AboutView.WriteFields(json, study, station);
                    json.WriteEndObject();
                }

                json.WriteEndArray();
                json.WriteCatalogues(station.CatalogueStates());
                json.WriteEndObject();
            });
            return;
        }

        var table = new TextTable(["", .. studies.Select(study => study.Id.Text)]) { IsEven = true };
        foreach (var (name, value) in Rows(station)) table.Add([new Cell(name, Tone.Quiet), .. studies.Select(value)]);
        output.Table(table);
        output.Line(new Cell(Words.Age(station), Tone.Quiet));
    }

    private static IEnumerable<(string Name, Func<AppStudy, Cell> Value)> Rows(Workstation station)
    {
        yield return ("name", study => study.Offer?.Card.Name ?? study.Installed!.Name);
        yield return ("what it is", study => study.Offer?.Card.Summary ?? "");
        foreach (var name in AppFacts.Names) yield return (name, study => study.Offer is null ? "" : AppFacts.Of(study.Offer.Card).First(fact => fact.Name == name).Value);
        yield return ("catalogue", study => study.Offer?.Catalogue.Text ?? new Cell(CatalogueStanding.Words(study.Installed!.Catalogue, station.Offers()), Tone.Attention));
        yield return ("version", study => study.Choice?.Release.Version.Text ?? new Cell("none for this machine", Tone.Attention));
        yield return ("released", study => study.Choice is { } choice ? JsonFields.Date(choice.Release.Date) : "");
        yield return ("lines", study => string.Join(", ", study.Lines.Select(release => $"{release.Line} {release.Version}")));
        yield return ("download", study => study.Choice is { } choice ? Words.Size(choice.Artifact.DownloadSize) : "");
        yield return ("unpacked", study => study.Choice is { } choice ? choice.Artifact.InstalledSize is { } size ? Words.Size(size) : Words.NotSupplied : "");
        yield return ("needs", study => study.Choice is { } choice && choice.Offer.Card.NeedsOf(choice.Release) is { Count: > 0 } needs ? string.Join(", ", needs) : "nothing else");
        yield return ("commands", study => study.Choice is { } choice ? string.Join(", ", study.Offer!.Card.PlacementOf(choice.Release).Commands.Select(command => command.Name.Text)) : "");
        yield return ("installed", study => string.Join(", ", new[] { study.Installed?.Version.Text, station.Other.Find(study.Id.Text) is { } other ? $"{other.Version} {Words.For(station.Other.Layout.Scope)}" : null }.OfType<string>().DefaultIfEmpty("no")));
        yield return ("next", study => study.NextCommand is { } next ? CommandText.In(station.Layout.Scope, next) : "");
    }
}
