using System.CommandLine;
using AmberCrate.Cli.Views;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Engine.Catalogues;

namespace AmberCrate.Cli.Commands;

/// <summary><c>acrate about</c>.</summary>
internal static class AboutCommand
{
    public static Command Create()
    {
        var app = new Argument<string>("APP") { Description = "The app's id or name; a selector picks the release to show" };
        var command = new Command("about", "Everything that is known about one app") { app };
        command.SetAction(async (parsed, cancel) =>
        {
            using var call = new Invocation(parsed);
            using var station = await call.OpenToReadFreshAsync(cancel);
            var reference = call.References([parsed.GetValue(app)!])[0];
            var machine = station.State();
            if (InstalledOnly(reference, machine, station.Offers()) is { } orphan)
            {
                AboutView.ShowInstalledOnly(call.Output, orphan, station);
                return ExitCodes.AllAsAsked;
            }

            var offers = NameResolver.Offered(reference, station.Offers());
            var installed = machine.Find(offers[0].Card.Id);
            var offer = reference.Catalogue is null ? offers.FirstOrDefault(other => other.Catalogue == installed?.Catalogue) ?? offers[0] : offers[0];
            var choice = reference.Selector is null
                ? ReleaseChoice.Find([offer], installed?.Asked, machine.Platform) ?? ReleaseChoice.Find([offer], null, machine.Platform)
                : ReleaseChoice.Require([offer], reference.Selector, machine.Platform);
            AboutView.Show(call.Output, new AboutView.Subject(offer, choice, installed, [.. offers.Where(other => other != offer)]), station);
            return ExitCodes.AllAsAsked;
        });
        return command;
    }

    /// <summary>An installed app that no catalogue offers any more: what the record knows of it is all there is.</summary>
    private static InstalledApp? InstalledOnly(AppReference reference, MachineState machine, CachedOffers offers) =>
        reference.Catalogue is null && machine.Named(reference.Name) is [var app] && offers.Find(app.Id).Count == 0 ? app : null;
}
