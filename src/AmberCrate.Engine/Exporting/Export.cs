using AmberCrate.Core.Bundles;
using AmberCrate.Core.Due;
using AmberCrate.Core.Inventories;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.BundleFiles;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Listing;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Exporting;

/// <summary>Writes a machine down.</summary>
/// <param name="session">The session.</param>
public sealed class Export(Session session)
{
    /// <summary>Reads the records, and writes the file if one is named.</summary>
    /// <param name="request">How.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">The machine cannot be read, or the file cannot be written.</exception>
    public ExportResult Run(ExportRequest request, CancellationToken cancel)
    {
        using var station = new RootOpener(session).ToRead();
        var machine = station.Apps.ReadWithRealVersions(cancel);
        var apps = Chosen(machine, request);
        NoteNotOffered(machine, apps, station.Catalogues.Offers());
        var capture = new MachineCapture(session, station.Layout.Scope, station.Catalogues);
        var bundle = capture.Capture(apps, station.Records.Pins(), request.Versions, request.Title);
        if (request.Only.Count == 0) bundle = capture.WithObserved(
            bundle, request.Catalogue,
            new ObservedApps(session, station.Layout, station.Other, station.Apps, station.Catalogues), cancel);
        if (request.IsPicking)
        {
            if (Picked(bundle, cancel) is not { } picked) return new ExportResult(bundle, null, null, []);
            bundle = picked;
            apps = [.. apps.Where(app => app.IsDependency || bundle.Apps.Any(entry => entry.Reference.Name == app.Id.Text))];
        }

        return Written(request, bundle, () => new Inventory(
            session.Host.MachineName, session.Now, ComponentVersions.Program, Items(apps, station.Catalogues.Offers()), bundle));
    }

    /// <summary>Writes a bundle, or makes its text where no file is named.</summary>
    /// <exception cref="ProblemException">The file is there already, or cannot be written.</exception>
    internal static ExportResult Written(ExportRequest request, Bundle bundle, Func<Inventory> inventory)
    {
        if (request.Form != InventoryForm.Bundle)
        {
            var text = TextOf(request.Form, inventory());
            return new ExportResult(
                bundle, text, request.File is null ? null : BundleFile.Create(request.File, text), []);
        }

        if (request.File is null) return new ExportResult(bundle, BundleWriter.Write(bundle), null, []);
        var (path, notHere) = BundleFile.Write(request.File, bundle, request.IsUpdate);
        return new ExportResult(bundle, BundleWriter.Write(bundle), path, notHere);
    }

    private static string TextOf(InventoryForm form, Inventory inventory) => form switch
    {
        InventoryForm.List => InventoryText.List(inventory),
        InventoryForm.Csv => InventoryText.Csv(inventory),
        InventoryForm.Script => InventoryText.Script(inventory),
        InventoryForm.CycloneDx => CycloneDx.Write(inventory),
        InventoryForm.Bundle or InventoryForm.Spdx => SpdxDocument.Write(inventory),
    };

    /// <summary>The apps to write down, with the versions that they tell themselves.</summary>
    /// <exception cref="ProblemException">One that was named is not installed.</exception>
    private static IReadOnlyList<InstalledApp> Chosen(MachineState machine, ExportRequest request)
    {
        var named = request.Only.Select(reference => Named(reference, machine)).Select(app => app.Id).ToHashSet();
        return [.. machine.Apps
            .Where(app => named.Count == 0 || named.Contains(app.Id))
            .Where(app => request.Catalogue is null || app.Catalogue.Text == request.Catalogue)
            .Select(app => named.Contains(app.Id) ? app with { IsDependency = false } : app)
            .Select(machine.WithRealVersion)];
    }

    private static InstalledApp Named(AppReference reference, MachineState machine)
    {
        var app = NameResolver.Installed(reference.Name, machine);
        if ((reference.Catalogue is null || reference.Catalogue == app.Catalogue)
            && reference.Selector?.Accepts(app.Version, app.Line) != false) return app;
        throw new Problem(
            ProblemCode.NothingMatched, $"{reference} is not installed", $"{app.Catalogue}:{app.Id} {app.Version} is",
            "name the app by its id alone").ToException();
    }

    private void NoteNotOffered(MachineState machine, IReadOnlyList<InstalledApp> apps, IOffers offers)
    {
        var written = apps.Select(app => app.Id).ToHashSet();
        foreach (var app in DueEntry.All(machine, offers)
            .Where(entry => entry.State == DueState.NotOffered && written.Contains(entry.App.Id)).Select(entry => entry.App))
            session.Note(
                $"{app.Id} is in the bundle, and equip may not find it: {CatalogueStatus.Words(app.Catalogue, offers)}");
    }

    private Bundle? Picked(Bundle bundle, CancellationToken cancel)
    {
        if (!session.Confirm.CanAsk)
            throw new Problem(
                ProblemCode.BadCommandLine, "--pick needs a terminal", remedy: "name the apps instead").ToException();
        if (session.Confirm.Pick(
            [.. bundle.Apps.Select(app =>
                (app.Reference.Name, $"{app.Version}{(app.IsObserved ? "  put there by others" : "")}"))],
            cancel) is not { } names) return null;
        return bundle with { Apps = [.. bundle.Apps.Where(app => names.Contains(app.Reference.Name))], LeftBehind = [] };
    }

    private static List<InventoryItem> Items(IReadOnlyList<InstalledApp> apps, CachedOffers offers)
    {
        offers.Expect(apps.Select(app => app.Id), everyRelease: false);
        return [.. apps.Select(app => new InventoryItem(
            app, offers.Find(app.Id).FirstOrDefault(offer => offer.Catalogue == app.Catalogue)?.Card))];
    }
}
