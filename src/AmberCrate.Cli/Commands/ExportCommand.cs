using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Bundles;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Bundles;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate export</c>.</summary>
internal static class ExportCommand
{
    public static Command Create()
    {
        var file = new Option<string>("--output", "-o") { Description = "The bundle to write; standard output unless named", HelpName = "FILE" };
        var without = new Option<bool>("--without-versions") { Description = "Leave exact versions out: equip then takes the newest that fits" };
        var update = new Option<bool>("--update") { Description = "Bring an existing FILE up to date; comments and order stay" };
        var title = new Option<string>("--title") { Description = "What the bundle calls this machine", HelpName = "TEXT" };
        var command = new Command("export", "Write this machine down as a bundle") { file, without, update, title };
        command.SetAction(parsed =>
        {
            using var call = new Invocation(parsed);
            using var station = call.OpenToRead();
            var capture = new BundleCapture(parsed.GetValue(title) ?? Environment.MachineName, DateOnly.FromDateTime(Invocation.Clock.GetLocalNow().DateTime));
            var (bundle, notCarried) = BundleCapturing.Capture(
                station.State().Apps, [.. station.Records.Catalogues().Select(catalogue => new BundleCatalogue(catalogue.Name, catalogue.Location))], capture, !parsed.GetValue(without));
            var path = parsed.GetValue(file);
            if (path is null && call.Output.IsJson) throw new Problem(ProblemCode.BadCommandLine, "--json needs a file for the bundle", Remedy: "add --output FILE").ToException();
            if (path is null) call.Output.Raw(BundleWriter.Write(bundle));
            else ExportView.Show(call.Output, BundleFile.Write(path, bundle, parsed.GetValue(update)), bundle, notCarried);
            if (path is null) ExportView.ShowNotCarried(call.Output, notCarried);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }
}
