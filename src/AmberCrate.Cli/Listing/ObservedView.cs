using AmberCrate.Cli.Tables;
using AmberCrate.Cli.Terminal;
using AmberCrate.Cli.Texts;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Listing;

namespace AmberCrate.Cli.Listing;

/// <summary>Shows software that others have put on the machine.</summary>
internal static class ObservedView
{
    public static void Show(Output output, ObservedResult result)
    {
        if (output.IsJson)
        {
            output.Json(ObservedDocument.FromResult(result));
            return;
        }

        var table = new TextTable(Shapes.Observed);
        foreach (var match in result.Found)
        {
            var app = match.Observed;
            table.Add(
                new Cell(app.Name, match.Catalogue is null ? Tone.Plain : Tone.Strong), app.VersionText ?? "", app.KindWords,
                new Cell(match.Words, match.IsOlder ? Tone.Attention : match.Catalogue is null ? Tone.Quiet : Tone.Plain),
                app.Title, new Cell(Remark(app), Tone.Quiet));
        }

        var known = result.Found.Count(match => match.Catalogue is not null);
        output.List(
            $"{Words.Count(result.Found.Count, "program or package", "programs and packages")} from others, {known} of them in a "
                + "catalogue",
            table,
            Words.Age(result.Freshness));
        if (result.Found.FirstOrDefault(match =>
            match is { Catalogue: not null, IsInstalled: false, Offered: not null }) is { } first)
            output.Next(NextCommand.Create("adopt", first.App!.Text));
    }

    private static string Remark(ObservedApp app) => string.Join("; ", new[]
    {
        app.IsProtected ? "protected: the system needs it" : "",
        app.Kind is ObservedKind.SystemPackage ? "" : string.Join(", ", app.Places),
    }.Where(part => part.Length > 0));
}
