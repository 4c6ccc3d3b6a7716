using AmberCrate.Cli.Shared;
using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Searching;

namespace AmberCrate.Cli.Searching;

/// <summary>Shows several apps side by side.</summary>
internal static class CompareView
{
    public static void Show(Output output, AboutResult result)
    {
        if (output.IsJson)
        {
            output.Json(CompareDocument.FromResult(result, output.Call));
            return;
        }

        var table = new TextTable(Shapes.SideBySide(result.Apps.Select(app => app.Assessment.Id.Text)));
        foreach (var (name, value) in OfCard(result).Concat(OfChoice()).Concat(OfMachine(output, result)))
            table.Add([new Cell(name, Tone.Quiet), .. result.Apps.Select(value)]);
        output.Table(table);
        output.Line(new Cell(Words.Age(result.Freshness), Tone.Quiet));
    }

    private static IEnumerable<(string Name, Func<AboutApp, Cell> Value)> OfCard(AboutResult result)
    {
        yield return ("name", app => app.Assessment.Offer?.Card.Name ?? app.Assessment.Installed!.Name);
        yield return ("what it is", app => app.Assessment.Offer?.Card.Summary ?? "");
        foreach (var name in AppFacts.Names) yield return (name, app => app.Assessment.Offer is { } offer
            ? AppFacts.List(offer.Card).First(fact => fact.Name == name).Value
            : "");
        yield return ("catalogue", app => app.Assessment.Offer is { } offer
            ? Words.Catalogue(offer.Catalogue, app.Scope, result.Layout.Scope)
            : new Cell(app.Orphaned, Tone.Attention));
    }

    private static IEnumerable<(string Name, Func<AboutApp, Cell> Value)> OfChoice()
    {
        yield return ("version", app => app.Assessment.Choice?.Release.Version.Text
            ?? new Cell("none for this machine", Tone.Attention));
        yield return Of("released", choice => PlainText.Date(choice.Release.Date));
        yield return ("lines", app =>
            string.Join(", ", app.Assessment.Lines.Select(release => $"{release.Line} {release.Version}")));
        yield return Of("download", choice => Words.Size(choice.Delivery.DownloadSize));
        yield return Of("unpacked", choice => choice.Delivery.InstalledSize is { } size ? Words.Size(size) : Words.NotSupplied);
        yield return Of("needs", choice => string.Join(", ", choice.Offer.Card.NeedsOf(choice.Release)) is { Length: > 0 } needs
            ? needs
            : "nothing else", "nothing else");
        yield return Of("commands", choice =>
            string.Join(", ", choice.Offer.Card.PlacementOf(choice.Release).Commands.Select(command => command.Name.Text)));

        static (string, Func<AboutApp, Cell>) Of(string name, Func<ReleaseChoice, string> value, string otherwise = "") =>
            (name, app => app.Assessment.Choice is { } choice ? value(choice) : otherwise);
    }

    private static IEnumerable<(string Name, Func<AboutApp, Cell> Value)> OfMachine(Output output, AboutResult result)
    {
        yield return ("installed", Installed);
        yield return ("next", app => app.Next is { } next ? output.FormatAdvice(next) : "");

        Cell Installed(AboutApp app)
        {
            var other = app.Other is null ? null : $"{app.Other.Version} {ScopeText.For(result.OtherLayoutOf(app).Scope)}";
            return string.Join(
                ", ", new[] { app.Assessment.Installed?.Version.Text, other }.OfType<string>().DefaultIfEmpty("no"));
        }
    }
}
