using AmberCrate.Core.Bundles;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Bundling;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.KitFiles;
using AmberCrate.Engine.PastRuns;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Equipping;

/// <summary>Makes a machine hold what a bundle lists.</summary>
/// <param name="session">The session.</param>
public sealed class Equip(Session session)
{
    /// <summary>Plans, shows the plan, asks, and carries it out if the user agrees.</summary>
    /// <param name="request">What to equip the machine with.</param>
    /// <param name="options">What else was requested.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    public async Task<RunResult> RunAsync(EquipRequest request, RunOptions options, RunSignals signals)
    {
        var opening = new RootOpener(session);
        var looking = await opening.ToLookAsync(options, signals.Soon);
        OpenedBundle? opened;
        IReadOnlyList<RefreshResult> downloaded = [];
        try
        {
            // Everything is downloaded before the lock is taken.
            opened = request.Bundle is null ? null : await OpenAsync(request, looking.Remote, looking.Catalogues, signals.Soon);
            var asked = BundleOf(request, opened, PastMachine.InRoot(session, looking));
            var wanted = NewOnes(asked, looking.Records, looking.Catalogues, looking.Apps, options);
            if (wanted.Count > 0 && !options.IsDryRun) opening.RaiseIfNeeded(RootOpener.WithoutTerminal);
            if (opened?.Kit is null && wanted.Count > 0) downloaded = await looking.Catalogues.RefreshAsync(wanted, signals.Soon);
        }
        catch
        {
            looking.Dispose();
            throw;
        }

        using var station = opening.ToChangeAfter(looking, options);
        var bundle = BundleOf(request, opened, PastMachine.InRoot(session, station));
        var added = NewOnes(bundle, station.Records, station.Catalogues, station.Apps, options);
        var takeOver = new CatalogueTakeOver(station.Apps, options.TakesOver);
        List<CatalogueName> notChecked = [];
        if (opened?.Kit is { } kit)
        {
            station.Kit = kit;
            notChecked = await UncheckedInAsync(kit, bundle, station.Records, options.AllowsUnsigned, signals.Soon);
        }

        var offers = opened?.Kit?.Offers() ?? (IOffers)station.Catalogues.OffersWith(
            downloaded.Where(result => result.Problem is null).Select(result => result.Catalogue.Name));
        bundle = bundle with
        {
            Apps = [.. bundle.Apps.Select(app => app.Pin is { } pin ? app with { Pin = pin with { Since = session.Now } } : app)],
        };
        var machine = station.Apps.ReadAndInspect(bundle.Apps.Select(app => app.Reference.Name));
        var plan = new Planner(machine, offers) { CanRun = HostPlatform.CanRun }
            .Equip(bundle, request.UninstallsOthers, request.Upgrades)
            .WithAcceptedDigests(options.StatedDigests)
            .WithInstallerArguments(options.InstallerArguments) with
        {
            Catalogues = [.. added.Select(catalogue => PlannedOf(catalogue, downloaded, takeOver))],
        };
        plan = plan with
        {
            IsFromKit = opened?.Kit is not null,
            UncheckedInKit = notChecked,
            Bundle = opened is null ? null : PlannedOf(opened, station.Catalogues),
        };
        RequireAnyReached(plan);
        if (!request.Upgrades) NoteLeft(bundle, machine, offers);
        if (request.Only.Count > 0) plan = WithoutUnneeded(plan, bundle);
        return await new PlanExecution(session, station, options).ExecuteAsync(plan, signals);
    }

    /// <summary>Names the newer versions that this does not install, since the bundle does not ask for a version.</summary>
    private void NoteLeft(Bundle bundle, MachineState machine, IOffers offers)
    {
        var left = new Planner(machine, offers).WithoutVersion(bundle)
            .Where(app => HeldUpgrades.MarkOne(app, offers, machine).State == DueState.Due).Select(app => app.Id.Text).ToList();
        if (left.Count > 0)
            session.Note($"{left.Count} newer {(left.Count == 1 ? "version" : "versions")} left: {string.Join(", ", left)}; "
                + "--upgrade installs them");
    }

    private static PlannedCatalogue PlannedOf(
        RegisteredCatalogue catalogue, IReadOnlyList<RefreshResult> downloaded, CatalogueTakeOver takeOver) => new(
        catalogue.Name, catalogue.Location,
        downloaded.FirstOrDefault(result => result.Catalogue.Name == catalogue.Name)?.Problem)
        {
            TakesOver = takeOver.AppsOf(catalogue), Trust = catalogue.Trust,
        };

    /// <summary>
    /// The bundle that a plan comes from. If a catalogue carries it, the plan says how old the catalogue's data are: a newer
    /// bundle may be published already.
    /// </summary>
    private PlannedBundle PlannedOf(OpenedBundle opened, KnownCatalogues catalogues)
    {
        var planned = PlannedBundle.FromLayer(opened.Name, opened.Top);
        if (!BundleOpening.IsCarried(opened.Name, session) || BundlePlace.InCatalogue(opened.Name) is not { } inside)
            return planned;
        var freshness = catalogues.Freshness();
        if (freshness.States.FirstOrDefault(state => state.Name == inside.Catalogue) is not { } state) return planned;
        return planned with { Refreshed = state.Refreshed, Age = DataAge.Ago(state.Refreshed, freshness.Now) };
    }

    private static Bundle BundleOf(EquipRequest request, OpenedBundle? opened, PastMachine past) => Narrowed(
        opened?.Flat.Bundle ?? past.BundleOf(request.Run!.Value, request.IsBefore), request);

    /// <summary>The catalogues that the bundle adds.</summary>
    /// <exception cref="ProblemException">One may not be added.</exception>
    private static IReadOnlyList<RegisteredCatalogue> NewOnes(
        Bundle bundle, RecordStore records, KnownCatalogues catalogues, InstalledApps apps, RunOptions options)
    {
        var added = new BundleCatalogues(records, catalogues).NewOnes(bundle, options.AllowsUnsigned);
        var takeOver = new CatalogueTakeOver(apps, options.TakesOver);
        foreach (var catalogue in added) takeOver.Require(catalogue);
        return added;
    }

    private async Task<OpenedBundle> OpenAsync(
        EquipRequest request, RemoteFiles remote, KnownCatalogues catalogues, CancellationToken cancel)
    {
        var opened = await new BundleOpening(session, remote, catalogues).OpenAsync(request.Bundle!, cancel);
        if (opened.Flat.IsForOthers)
            session.Note($"{opened.Name} is for other machines: {opened.Top.Bundle.When!.Words}; this one is "
                + $"{session.Host.MachineName}");
        foreach (var unmatched in opened.Flat.Unmatched) session.Note(unmatched);
        if (opened.Kit is { } kit && !HostPlatform.CanRun(kit.Manifest.Platform))
            throw new Problem(
                ProblemCode.Refused, $"{opened.Name} is for another platform, {kit.Manifest.Platform}",
                $"this machine is {HostPlatform.Current}",
                NextCommand.Create("kit make", "BUNDLE", "--platform", HostPlatform.Current.ToString())).ToException();
        return opened;
    }

    /// <summary>
    /// The catalogues whose cards in a kit cannot be checked, if the user gave <c>--unsigned</c>. This goes by the cards in the
    /// kit, not by the catalogues that its bundle lists: an attacker who changes one can change the other.
    /// </summary>
    /// <exception cref="ProblemException">Some cannot be checked and the user did not give <c>--unsigned</c>, or the
    /// kit was changed.</exception>
    private async Task<List<CatalogueName>> UncheckedInAsync(
        KitFile kit, Bundle bundle, RecordStore records, bool allowsUnsigned, CancellationToken cancel)
    {
        List<CatalogueName> taken = [];
        foreach (var name in kit.CatalogueNames)
        {
            var root = records.RootOf(name) ?? bundle.Catalogues.FirstOrDefault(one => one.Name == name)?.Root;
            var why = root is null
                ? "neither this machine nor the bundle names a root for it"
                : await KitSignatures.VerifyAsync(
                    kit, name, root, new TrustFolder(session.Layout.TrustFolder), session.Now, cancel);
            if (why is null) continue;
            if (!allowsUnsigned)
                throw new Problem(
                    ProblemCode.Refused, $"the kit's apps of {name} cannot be checked", why,
                    $"get a new kit from a source that you trust; to use this one as it is, add {CatalogueAdmission.Option}")
                    .ToException();
            session.Note($"the kit's apps of {name} were not checked: {why}");
            taken.Add(name);
        }

        return taken;
    }

    /// <summary>The bundle with the wanted apps only.</summary>
    /// <exception cref="ProblemException">The bundle does not list one of them.</exception>
    private static Bundle Narrowed(Bundle bundle, EquipRequest request)
    {
        if (request.Only.Count == 0) return bundle;
        var listed = bundle.Apps.Select(app => app.Reference.Name).ToHashSet(StringComparer.Ordinal);
        if (request.Only.FirstOrDefault(name => !listed.Contains(name)) is { } unknown)
            throw new Problem(
                ProblemCode.NothingMatched, $"--only names {unknown}, which the bundle does not list",
                "nothing has been changed", "name an app as the bundle does").ToException();
        return bundle with
        {
            Apps = [.. bundle.Apps.Where(app => request.Only.Contains(app.Reference.Name) || app.IsDependency)],
        };
    }

    /// <summary>The plan without dependencies of a sealed bundle that the wanted apps do not need.</summary>
    private static Plan WithoutUnneeded(Plan plan, Bundle bundle)
    {
        var dependencies = bundle.Apps.Where(app => app.IsDependency).Select(app => app.Reference.Name)
            .ToHashSet(StringComparer.Ordinal);
        var items = plan.Items.ToDictionary(item => item.Id, StringComparer.Ordinal);
        var needed = new HashSet<string>(items.Keys.Where(id => !dependencies.Contains(id)), StringComparer.Ordinal);
        for (var open = new Queue<string>(needed); open.TryDequeue(out var id);)
        {
            var item = items[id];
            var needs = item.Fetches ? item.Offer!.Card.NeedsOf(item.Release!) : item.Installed?.Needs ?? [];
            foreach (var need in needs.Select(need => need.Id.Text).Where(need => items.ContainsKey(need) && needed.Add(need)))
                open.Enqueue(need);
        }

        return plan with { Items = [.. plan.Items.Where(item => needed.Contains(item.Id))] };
    }

    private static void RequireAnyReached(Plan plan)
    {
        if (plan.Catalogues.FirstOrDefault(catalogue => catalogue.Problem is not null)?.Problem is not { } unreachable) return;
        if (!plan.Items.All(item => item.Action == PlanAction.Cannot)) return;
        throw (unreachable with { Details = [.. plan.Items.Select(item => Advice.Combine($"{item.Id}: {item.Note}"))] })
            .ToException();
    }
}
