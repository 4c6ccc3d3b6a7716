using AmberCrate.Core.Cards;
using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Exporting;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.PastRuns;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Checking;

/// <summary>Compares everything that the records claim with the disk, and repairs what can safely be.</summary>
/// <param name="session">The session.</param>
public sealed class CheckMachine(Session session)
{
    private const long LeastFree = 512L << 20;
    private const UnixFileMode OthersWrite = UnixFileMode.GroupWrite | UnixFileMode.OtherWrite;

    /// <summary>Looks, and changes nothing.</summary>
    /// <param name="names">The apps to look at; none for all, and for the machine.</param>
    /// <param name="isDeep">Whether the content of every file is read.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <exception cref="ProblemException">A name fits no installed app, or several.</exception>
    public async Task<CheckResult> RunAsync(IReadOnlyList<string> names, bool isDeep, CancellationToken cancel)
    {
        using var station = await new RootOpener(session).ToReadFreshAsync(cancel);
        var machine = station.Apps.Read();
        IReadOnlyCollection<InstalledApp> apps = names.Count == 0
            ? machine.Apps
            : [.. names.Select(name => NameResolver.Installed(name, machine)).DistinctBy(app => app.Id)];
        var found = new List<Finding>[apps.Count];
        var all = apps.ToArray();
        Parallel.For(0, all.Length, new ParallelOptions { CancellationToken = cancel }, at =>
            found[at] = [.. station.Apps.Inspector.Inspect(all[at], isDeep, cancel)]);
        List<Finding> findings = [.. found.SelectMany(one => one)];
        findings.AddRange(OfPlanning(all, machine, station.Records, station.Catalogues.Offers()));
        findings.AddRange(Commands(all));
        if (names.Count == 0) findings.AddRange(
        [
            .. OfMachine(station.Records, station.Placing.Shelf, new RunsLeft(station.Records, station.Catalogues, machine)),
            .. OfCatalogues(station.Catalogues),
        ]);
        return new CheckResult(
            [.. findings.OrderBy(one => one.Weight).ThenBy(one => one.App, StringComparer.Ordinal)], all.Length, isDeep);
    }

    /// <summary>Puts damaged apps right, as far as the user wants it.</summary>
    /// <param name="names">The apps to look at; none for all.</param>
    /// <param name="isDeep">Whether the content of every file is read.</param>
    /// <param name="options">What else was requested.</param>
    /// <param name="signals">Stops the run.</param>
    /// <exception cref="ProblemException">It is refused; nothing has been changed.</exception>
    public async Task<RunResult> RepairAsync(
        IReadOnlyList<string> names, bool isDeep, RunOptions options, RunSignals signals)
    {
        using var station = await new RootOpener(session).ToChangeFreshAsync(options, signals.Soon);
        var machine = station.Apps.Read();
        IEnumerable<InstalledApp> apps = names.Count == 0
            ? machine.Apps
            : names.Select(name => NameResolver.Installed(name, machine)).DistinctBy(app => app.Id);
        var damaged = apps.Select(app => (app, Damage: DamageOf(app, isDeep, station.Apps.Inspector, signals.Soon)))
            .Where(one => one.Damage is not null)
            .Select(one => (one.app, one.Damage!));
        var plan = new Planner(machine, station.Catalogues.Offers()).Repair(damaged).WithAcceptedDigests(options.StatedDigests);
        return await new PlanExecution(session, station, options).ExecuteAsync(plan, signals);
    }

    private static AppDamage? DamageOf(InstalledApp app, bool isDeep, AppInspector inspector, CancellationToken cancel)
    {
        if (!isDeep) return inspector.DamageOf(app);
        List<Finding> found = [.. inspector.Inspect(app, isDeep, cancel).Where(one => one.IsRepairable)];
        return found.Count == 0 ? null : new AppDamage(
            !found.Exists(one => one.Kind is FindingKind.ShelfMissing or FindingKind.ShelfChanged),
            found.ConvertAll(one => one.What));
    }

    private static IEnumerable<Finding> OfPlanning(
        IReadOnlyCollection<InstalledApp> apps, MachineState machine, RecordStore records, CachedOffers offers)
    {
        var open = records.Intentions().Select(intention => intention.Id).ToHashSet();
        var notNeeded = NotNeeded.Find(machine);
        offers.Expect(apps.Select(app => app.Id), everyRelease: true);
        var ids = apps.Select(app => app.Id).ToHashSet();
        var held = HeldUpgrades.FindHeldFixes(machine, offers).Where(entry => ids.Contains(entry.App.Id));
        return apps
            .SelectMany(app => OfPlanning(app, machine, open.Contains(app.Id), notNeeded.Contains(app.Id), offers))
            .Concat(held.Select(entry => new Finding(
                FindingKind.SecurityHeldBack, entry.App.Id.Text,
                $"the security fix {entry.App.Id} {entry.HeldFix!.Version} is held back: {entry.HeldFixWhy}",
                HowToTake(entry, entry.HeldFix))));
    }

    private static IEnumerable<Finding> OfPlanning(
        InstalledApp app, MachineState machine, bool isUnfinished, bool isNotNeeded, CachedOffers offers)
    {
        var id = app.Id.Text;
        if (isUnfinished)
            yield return new Finding(
                FindingKind.Unfinished, id, $"{id} is in the middle of a change",
                NextCommand.Create("check", id, "--repair"))
            { IsRepairable = true };
        foreach (var need in app.Needs.Where(need =>
            !(machine.Find(need.Id) is { } there && need.Accepts(there.Version, there.Line))))
            yield return new Finding(
                FindingKind.NeedMissing, id, $"{id} needs {need}, which is not installed",
                NextCommand.Create("install", need.ToString()));
        if (machine.Pins.Find(app.Id) is { } pin && pin.IsLapsed(machine.Pins.Today))
            yield return new Finding(
                FindingKind.PinLapsed, id, $"{id} was {pin.Words}, which is over",
                Advice.Combine($"{NextCommand.Create("pin", id, "--lift")}, or pin it again"));
        if (isNotNeeded)
            yield return new Finding(
                FindingKind.NotNeeded, id, $"no app needs {id} any more",
                NextCommand.Create("uninstall", id));
        if (DueEntry.Compare(app, offers, machine) is { Withdrawn: { } why })
            yield return new Finding(
                FindingKind.Withdrawn, id, $"{app.Catalogue} has withdrawn {id} {app.Version}: {why}",
                Instead(app, machine, offers));
    }

    /// <summary>How to get a security fix that is held back.</summary>
    private static Advice HowToTake(DueEntry entry, Release fix)
    {
        var id = entry.App.Id.Text;
        var install = NextCommand.Create("install", $"{id}@{fix.Version}");
        return entry.State == DueState.HeldBack && entry.HeldBy.Count > 0
            ? Advice.Combine($"{NextCommand.Create("uninstall", [.. entry.HeldBy.Select(blocker => blocker.Text)])}, then "
                + $"{NextCommand.Create("upgrade", id)}; or wait until they allow it")
            : entry.State == DueState.HeldBack ? "wait for a release of the other apps that allows it"
            : entry.IsNewerPinned ? Advice.Combine($"{NextCommand.Create("pin", id, "--lift")}, then {install}")
            : install;
    }

    /// <summary>What to do about a withdrawn release.</summary>
    private static Advice Instead(InstalledApp app, MachineState machine, CachedOffers offers)
    {
        var id = app.Id.Text;
        if (HeldUpgrades.MarkOne(app, offers, machine).State is DueState.Due or DueState.UpdatesItself)
            return NextCommand.Create("upgrade", id);
        var other = ReleaseChoice.Find(
            CatalogueChange.Allowed(app, offers.Find(app.Id)), null, machine.PlatformOf(app.Id), machine.Pins.InForce(app.Id));
        return other is null
            ? Advice.Combine($"{NextCommand.Create("uninstall", id)}, or wait for another release")
            : NextCommand.Create("install", $"{id}@{other.Release.Version}");
    }

    private IEnumerable<Finding> Commands(IEnumerable<InstalledApp> apps)
    {
        var layout = session.Layout;
        if (layout.Scope == InstallScope.AllUsers || !session.IsHome) yield break;
        var path = new CommandPath(layout, session.Host.SystemRoot, session.Host.SearchPath);
        if (!path.HasOwn && apps.Any(app => app.Placed.Any(item => item.Kind == PlaceKind.Command)))
            yield return new Finding(
                FindingKind.NotOnPath, null, $"{layout.BinFolder} is not on PATH",
                $"add to ~/.profile, and sign in again: export PATH=\"{layout.BinFolder}:$PATH\"");
        foreach (var app in apps)
        {
            foreach (var command in app.Placed.Where(item => item.Kind == PlaceKind.Command))
            {
                if (path.FoundBefore(command.Name) is { } first)
                    yield return new Finding(
                        FindingKind.Shadowed, app.Id.Text,
                        $"{command.Name} starts {first}, not {app.Id}",
                        $"remove that one, or put {layout.BinFolder} first on PATH");
            }
        }
    }

    private IEnumerable<Finding> OfMachine(RecordStore records, Shelf shelf, RunsLeft runs)
    {
        var layout = session.Layout;
        Advice anyChange = NextCommand.Create("check", "--repair");
        foreach (var problem in records.Unreadable())
            yield return new Finding(
                FindingKind.RecordUnreadable, null, $"{problem.What}: {problem.Why}", problem.Remedy);
        foreach (var leftover in new Leftovers(layout, records, shelf).Find())
            yield return new Finding(
                FindingKind.Leftovers, null, $"{leftover.Path} was left by an earlier run", NextCommand
                    .Create("reclaim"));
        foreach (var (run, left) in runs.All())
            yield return new Finding(
                FindingKind.RunLeft, null, $"run {run.Number} left {left.Count} of its apps undone",
                NextCommand.Create("retry", $"{run.Number}"));
        foreach (var folder in new[] { layout.OwnFolder, layout.StateFolder, layout.BinFolder }.Where(Directory.Exists))
        {
            if ((File.GetUnixFileMode(folder) & OthersWrite & ~Group(folder)) != 0)
                yield return new Finding(
                    FindingKind.Permissions, null, $"other users can write to {folder}",
                    $"chmod go-w {ShellWord.Quote(folder)}");
        }

        foreach (var folder in new[] { layout.ShelfFolder, layout.StateFolder }.Select(MachineLayout.NearestThatIsThere)
            .DistinctBy(Posix.DeviceOf))
        {
            var free = new DriveInfo(folder).AvailableFreeSpace;
            if (free < LeastFree)
                yield return new Finding(
                    FindingKind.LowRoom, null,
                    $"{ByteSize.Words(free)} are free on {new MountPoints().FindFor(folder)}", NextCommand.Create("reclaim"));
        }

        if (shelf.InFront(records.Ids()) is { Count: > 0 } unknown)
            yield return new Finding(
                FindingKind.RecordsOlder, null,
                $"installed, but not in the records: {string.Join(", ", unknown)}", anyChange)
            { IsRepairable = true };
    }

    private static UnixFileMode Group(string folder) =>
        Posix.EffectiveUser() == 0 || Posix.OwnerOf(folder) == 0 ? UnixFileMode.None : UnixFileMode.GroupWrite;

    private IEnumerable<Finding> OfCatalogues(KnownCatalogues catalogues)
    {
        var freshness = catalogues.Freshness();
        var age = session.Settings.RefreshAfter;
        foreach (var state in freshness.States)
        {
            if (state.Fault is { } fault) yield return Failed(state, fault, session.Now);
            else if (age is { } limit && DataAge.IsOver(state.Refreshed, limit, session.Now))
                yield return new Finding(
                    FindingKind.CatalogueStale, null,
                    $"the data of {state.Name} were refreshed {DataAge.Ago(state.Refreshed, session.Now)}",
                    NextCommand.Create("catalogue refresh", state.Name.Text));
        }

        foreach (var catalogue in catalogues.All().Where(one => freshness.NotSigned.Contains(one.Name)))
            yield return new Finding(
                FindingKind.CatalogueUnsigned, null,
                $"{catalogue.Name} is not signed: whoever can change {catalogue.Location} decides what is offered",
                $"have its maintainer sign it, then {NextCommand.Create("catalogue drop", catalogue.Name.Text)} "
                    + "and add it again");

        foreach (var name in freshness.NeverFetched)
            yield return new Finding(
                FindingKind.CatalogueUnreachable, null, $"{name} has never been refreshed",
                NextCommand.Create("catalogue refresh", name.Text));
        if (Newer(catalogues.Offers()) is { } newer)
            yield return new Finding(
                FindingKind.NewerAcrate, null, $"acrate {newer} is available; this is {OwnVersion}",
                NextCommand.Create("about", CommandNameRule.Own));
    }

    private static Finding Failed(CatalogueState state, ProblemCode fault, DateTimeOffset now)
    {
        var ago = DataAge.Ago(state.Tried, now);
        var again = NextCommand.Create("catalogue refresh", state.Name.Text);
        return fault switch
        {
            ProblemCode.Expired => new Finding(
                FindingKind.CatalogueExpired, null,
                $"the signatures of {state.Name} had expired {ago}",
                $"check the clock of this machine; if it is right, ask the maintainer to renew them, then {again}"),
            ProblemCode.NotVerified => new Finding(
                FindingKind.CatalogueNotVerified, null,
                $"{state.Name} did not verify {ago}; the data before that stay in use",
                $"{again}; if it does not verify again, report it to its maintainer"),
            _ => new Finding(
                FindingKind.CatalogueUnreachable, null,
                $"{state.Name} could not be reached {ago}", again),
        };
    }

    private static Core.Versions.AppVersion OwnVersion =>
        Core.Versions.AppVersion.Parse(ComponentVersions.Program);

    private static Core.Versions.AppVersion? Newer(CachedOffers offers) =>
        ReleaseChoice.Find(offers.Find(AppId.Parse(CommandNameRule.Own)), null, HostPlatform.Current)?.Release.Version
            is { } offered
            && offered > OwnVersion ? offered : null;
}
