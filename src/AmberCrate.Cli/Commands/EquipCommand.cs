using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Planning;
using AmberCrate.Engine.Bundles;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate equip</c>.</summary>
internal static class EquipCommand
{
    public static Command Create(CancellationToken now)
    {
        var file = new Argument<string>("FILE") { Description = "The bundle" };
        var command = new Command("equip", "Make this machine hold what a bundle lists") { file, CommonOptions.Yes, CommonOptions.DryRun, CommonOptions.Pick, CommonOptions.Skip, CommonOptions.AsShown, CommonOptions.ToInstaller, CommonOptions.EvenOpen, CommonOptions.Wait, CommonOptions.Expect, CommonOptions.Transfers, CommonOptions.Bandwidth };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            var path = parsed.GetValue(file)!;
            var bundle = BundleFile.Read(path);
            using var station = await call.OpenToChangeFreshAsync(cancel);
            var addsCatalogues = bundle.Catalogues.Any(wanted => station.Records.Catalogues().All(known => known.Name != wanted.Name));
            if (addsCatalogues && call.RunRaised() is { } ended) return ended;
            var added = await station.FetchNewCataloguesAsync(bundle, Path.GetDirectoryName(Path.GetFullPath(path))!, cancel);
            var offers = station.OffersWith(added.Where(result => result.Problem is null).Select(result => result.Catalogue.Name));
            var plan = new Planner(station.State(), offers).Equip(bundle).Expecting(call.StatedDigests()).Giving(call.InstallerArguments());
            var view = new PlanView(added);
            if (added.FirstOrDefault(result => result.Problem is not null)?.Problem is { } unreachable && plan.Items.All(item => item.Action == PlanAction.Cannot))
                throw (unreachable with { Details = [.. plan.Items.Select(item => $"{item.Id}: {item.Note}")] }).ToException();
            return await PlanRun.GoAsync(call, station, plan, view, new RunSignals(cancel, now));
        });
        return command;
    }
}
