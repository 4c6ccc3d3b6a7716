using System.Runtime.ExceptionServices;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.Runs;

/// <summary>Carries a plan out, app by app. Each ends in one outcome, and the failure of one does not stop the others.</summary>
public sealed class Runner
{
    private const string InstallerFolders = "installer-", TrialFolders = "trial-";

    private readonly MachineLayout _layout;
    private readonly RecordStore _records;
    private readonly DownloadCache _downloads;
    private readonly WorkstationSettings _settings;
    private readonly TimeProvider _clock;
    private readonly Shelf _shelf;
    private readonly Placer _placer;
    private readonly AppSwitch _switch;
    private readonly DesktopCaches _caches;
    private readonly Confinement _confinement;

    /// <summary>Makes a runner for a root whose lock the caller holds.</summary>
    /// <param name="layout">Where everything lies.</param>
    /// <param name="records">The records.</param>
    /// <param name="downloads">The artifacts that have been fetched.</param>
    /// <param name="settings">What the person has set.</param>
    /// <param name="clock">Tells the time.</param>
    public Runner(MachineLayout layout, RecordStore records, DownloadCache downloads, WorkstationSettings settings, TimeProvider clock)
    {
        (_layout, _records, _downloads, _settings, _clock) = (layout, records, downloads, settings, clock);
        var searchPath = settings.Variable("PATH") ?? "";
        _caches = new DesktopCaches(layout, searchPath);
        _confinement = new Confinement(searchPath);
        _shelf = new Shelf(layout);
        var packages = new SystemPackages("/");
        _placer = new Placer(layout, packages, new ProgramCheck("/", searchPath, packages));
        _switch = new AppSwitch(_shelf, _placer, records);
    }

    /// <summary>Reverts what an earlier run left in the middle.</summary>
    /// <returns>The ids of the apps that were reverted.</returns>
    public IReadOnlyList<string> RevertUnsettled()
    {
        foreach (var folder in new[] { InstallerFolders, TrialFolders }.Where(_ => Directory.Exists(_layout.CacheFolder)).SelectMany(names => Directory.EnumerateDirectories(_layout.CacheFolder, names + "*")))
        {
            Confinement.EndLeftover(folder);
            Directory.Delete(folder, recursive: true);
        }

        return _switch.RevertUnsettled();
    }

    /// <summary>Carries a plan out: fetches several artifacts at a time, and changes one app after the other.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="command">The command for the record.</param>
    /// <param name="watch">Is told what happens, one event at a time.</param>
    /// <param name="signals">Stops the run.</param>
    /// <param name="evenOpen">Whether apps are changed that a person has open.</param>
    public async Task<RunReport> RunAsync(Plan plan, string command, Action<RunEvent> watch, RunSignals signals, bool evenOpen)
    {
        if (!plan.Changes) return await GoAsync(plan, watch, (_, _, _) => Task.FromResult<IReadOnlyList<string>>([]), signals);
        var run = _records.BeginRun(command, plan);
        var log = RunLog.Begin(_layout, run, _settings.KeptLogs, _clock);
        log.Write($"{command}, process {Environment.ProcessId}");
        var report = await GoAsync(plan, happened =>
        {
            log.Take(happened);
            watch(happened);
        }, (place, transfers, tell) => ChangeAsync(place, transfers, tell, log, evenOpen, signals.Now), signals);
        _caches.Refresh(KindsChanged(report), line => log.Write(line));
        log.Write(report.Interrupted ? "stopped by a person" : "ended");
        report = report with { Number = run, Log = log.File };
        _records.EndRun(run, report);
        return report;
    }

    /// <summary>Apps that are in place and not on record, as where the record is older than the disk.</summary>
    public IReadOnlyList<string> NotOnRecord() => [.. _shelf.InFront().Except(_records.Ids())];

    /// <summary>Whether installers are confined on this machine.</summary>
    public bool ConfinesInstallers => _confinement.IsConfined;

    /// <summary>The system's programs that a plan will have the desktop's lists made anew by.</summary>
    public IReadOnlyList<string> ProgramsAfter(Plan plan) => _caches.ProgramsFor(plan.Items.Where(item => item.Changes && item.Action != PlanAction.Remember).SelectMany(KindsOf));

    /// <summary>Fetches what a plan needs into the cache, and changes nothing else.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="watch">Is told what happens, one event at a time.</param>
    /// <param name="cancel">Stops; what has arrived stays for another time.</param>
    public Task<RunReport> PrefetchAsync(Plan plan, Action<RunEvent> watch, CancellationToken cancel) =>
        GoAsync(plan, watch, (place, transfers, _) => FetchOnlyAsync(place, transfers, cancel), new RunSignals(cancel, cancel));

    private async Task<RunReport> GoAsync(Plan plan, Action<RunEvent> watch, Func<ItemPlace, PlanTransfers, Action<RunEvent>, Task<IReadOnlyList<string>>> act, RunSignals signals)
    {
        var begun = _clock.GetTimestamp();
        var guard = new Lock();
        void Tell(RunEvent happened)
        {
            lock (guard) watch(happened);
        }

        var places = Places(plan);
        using var transfers = new PlanTransfers(_downloads, _settings.Transfers.AtOnce, Tell, signals.Soon);
        Tell(new RunEvent.Begins(places.Count(place => place.Number > 0), plan.DownloadSize));
        foreach (var place in places.Where(place => place.Item.Fetches)) transfers.Begin(place);
        var reports = new List<ItemReport>();
        foreach (var place in places)
        {
            var report = MissingNeed(place.Item, reports) ?? await RunOneAsync(place, () => act(place, transfers, Tell), signals);
            reports.Add(report);
            Tell(new RunEvent.ItemEnds(place, report));
        }

        await transfers.StopAsync();
        Prune(plan);
        return new RunReport(reports, signals.Soon.IsCancellationRequested && reports.Exists(report => report.Outcome == Outcome.Skipped)) { Took = _clock.GetElapsedTime(begun) };
    }

    /// <summary>What a run has placed or taken away, by kind.</summary>
    private static IEnumerable<PlaceKind> KindsChanged(RunReport report) => report.Items.Where(item => item.Outcome == Outcome.Done).SelectMany(item => KindsOf(item.Item));

    private static IEnumerable<PlaceKind> KindsOf(PlanItem item) => (item.Installed?.Placed.Select(placed => placed.Kind) ?? [])
        .Concat(item.Fetches ? PlacementList.KindsOf(item.Offer!.Card.PlacementOf(item.Release!)) : []);

    private static List<ItemPlace> Places(Plan plan)
    {
        var count = plan.Items.Count(item => item.Changes);
        var number = 0;
        return [.. plan.Items.Select(item => new ItemPlace(item.Changes ? ++number : 0, count, item))];
    }

    private void Prune(Plan plan)
    {
        try
        {
            _downloads.Prune(plan.Items.Where(item => item.Fetches).Select(item => item.FileDigest!).ToHashSet());
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            // A cache that cannot be tidied is no reason to fail; the next run tries again.
        }
    }

    /// <summary>An app is not put on when what it needs could not be.</summary>
    private static ItemReport? MissingNeed(PlanItem item, List<ItemReport> reports)
    {
        if (!item.Fetches) return null;
        var needs = item.Offer!.Card.NeedsOf(item.Release!).Select(need => need.Id.Text).ToHashSet(StringComparer.Ordinal);
        return reports.Find(report => report.Outcome == Outcome.Failed && needs.Contains(report.Item.Id)) is { } missing
            ? new ItemReport(item, Outcome.Failed, new Problem(missing.Problem!.Code, $"{item.Id} {item.To} cannot be put on", $"{missing.Item.Id}, which it needs, has failed", "see there"))
            : null;
    }

    private static async Task<ItemReport> RunOneAsync(ItemPlace place, Func<Task<IReadOnlyList<string>>> act, RunSignals signals)
    {
        var item = place.Item;
        if (!item.Changes)
        {
            return new ItemReport(item, item.Action switch
            {
                PlanAction.StayPinned => Outcome.Pinned,
                PlanAction.Cannot => Outcome.NotOffered,
                _ => Outcome.Unchanged,
            });
        }

        if (signals.Soon.IsCancellationRequested) return new ItemReport(item, Outcome.Skipped);
        try
        {
            var notes = await act();
            return new ItemReport(item, item.Action == PlanAction.Remember ? Outcome.Unchanged : Outcome.Done) { Notes = notes };
        }
        catch (OperationCanceledException) when (signals.Soon.IsCancellationRequested)
        {
            return new ItemReport(item, Outcome.Skipped);
        }
        catch (ProblemException open) when (open.Problem.Code == ProblemCode.AppOpen)
        {
            return new ItemReport(item, Outcome.AppOpen, open.Problem);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            return new ItemReport(item, Outcome.Failed, IoProblems.Of(fault, item.Action == PlanAction.Remove ? $"{item.Id} {item.From} cannot be taken off" : $"{item.Id} {item.To} cannot be put on"));
        }
    }

    private async Task<IReadOnlyList<string>> ChangeAsync(ItemPlace place, PlanTransfers transfers, Action<RunEvent> watch, RunLog log, bool evenOpen, CancellationToken cancel)
    {
        var item = place.Item;
        if (item.Action == PlanAction.Remember)
        {
            _records.Remember(item.Installed! with { Asked = item.Asked });
            return [];
        }

        var present = item.Fetches ? await transfers.FileOf(item) : null;
        if (!evenOpen) RequireClosed(item);
        return present is null ? Remove(place, watch, cancel) : await PutOnAsync(place, present, watch, log, evenOpen, cancel);
    }

    /// <summary>Refuses to change an app that a person has open.</summary>
    private void RequireClosed(PlanItem item)
    {
        if (item.Installed is null || RunningApps.In(_layout.ShelfOf(item.Installed.Id)) is not { Count: > 0 } running) return;
        throw new Problem(
            ProblemCode.AppOpen,
            $"{item.Id} {item.From} is open",
            string.Join(", ", running.Select(one => $"process {one.Process}, {one.Name}")),
            "close it, then acrate retry; --even-open changes it all the same").ToException();
    }

    private async Task<IReadOnlyList<string>> FetchOnlyAsync(ItemPlace place, PlanTransfers transfers, CancellationToken cancel)
    {
        if (place.Item.Fetches && await (await transfers.FileOf(place.Item)).Check is null) await _downloads.GetAsync(WantedFile.Of(place.Item), null, cancel);
        return [];
    }

    private async Task<IReadOnlyList<string>> PutOnAsync(ItemPlace place, PresentFile present, Action<RunEvent> watch, RunLog log, bool evenOpen, CancellationToken cancel)
    {
        var item = place.Item;
        var (offer, release, artifact) = (item.Offer!, item.Release!, item.Artifact!);
        var address = artifact.Location.Resolve(offer.Base);
        var after = new InstalledApp
        {
            Id = offer.Card.Id, Name = offer.Card.Name, Kind = offer.Card.Kind, Version = release.Version, Architecture = artifact.Platform.Architecture,
            Line = release.Line, Released = release.Date, Catalogue = offer.Catalogue, Asked = item.Asked, Needs = offer.Card.NeedsOf(release), ToInstaller = item.ToInstaller, Conflicts = offer.Card.ConflictsOf(release), InstalledAt = _clock.GetUtcNow(),
            Source = address.IsFile ? address.LocalPath : address.AbsoluteUri, Sha256 = item.FileDigest!, IsDigestStated = item.StatedSha256 is not null,
        };
        try
        {
            watch(new RunEvent.StageBegins(place, RunStage.Unpacking));
            var (incoming, file) = await UnpackAsync(present, after, item, cancel);
            var mustRestart = item.RunsInstaller && RunInstaller(file, item, after, incoming, log, cancel);
            after = after with { Placed = _placer.List(offer.Card, release, incoming) };
            _placer.RequireFreeWay(after, item.Installed is null && _shelf.IsInFront(after.Id), item.Installed, OthersThan(after));
            watch(new RunEvent.StageBegins(place, RunStage.Placing));
            _shelf.Accept(after, incoming, file);
            if (!evenOpen) RequireClosed(item);
            var notes = Notes(_switch.Go(item.Installed, after, () => TryStart(offer.Card, release, after, log, cancel), cancel));
            if (mustRestart) notes.Add("its installer says that the machine must be started again");
            return notes;
        }
        catch
        {
            _shelf.DropIncoming(after.Id);
            if (item.Installed?.ShelfName != after.ShelfName) _shelf.Drop(after);
            throw;
        }
    }

    /// <summary>Has the vendor's installer fill the folder.</summary>
    private bool RunInstaller(VerifiedFile file, PlanItem item, InstalledApp after, string incoming, RunLog log, CancellationToken cancel)
    {
        log.Write(item.Id, _confinement.IsConfined ? "runs its installer, confined by bwrap" : "runs its installer, not confined");
        return new InstallerRun(_confinement, Path.Combine(_layout.CacheFolder, $"{InstallerFolders}{item.Id}")).Run(
            file.Path, item.Artifact!, item.ToInstaller, incoming, _shelf.FolderOf(after), line => log.Write(item.Id, $"> {line}"), cancel);
    }

    /// <summary>Starts the app as its card says; tells what is wrong with it.</summary>
    private string? TryStart(AppCard card, Release release, InstalledApp after, RunLog log, CancellationToken cancel)
    {
        if (card.PlacementOf(release).Check is not { } check) return null;
        log.Write(card.Id.Text, $"starts {check.CommandLine} to see whether it works");
        var program = card.PlacementOf(release).Commands.First(command => command.Name == check.Command).Path;
        return new StartTrial(_confinement, Path.Combine(_layout.CacheFolder, $"{TrialFolders}{card.Id}")).Fault(check, release.Version, _shelf.FolderOf(after), program, line => log.Write(card.Id.Text, $"> {line}"), cancel);
    }

    /// <summary>The other apps on record, read only where somebody asks.</summary>
    private IEnumerable<InstalledApp> OthersThan(InstalledApp one)
    {
        foreach (var app in _records.Apps())
        {
            if (app.Id != one.Id) yield return app;
        }
    }

    /// <summary>Unpacks an artifact while its digest is being taken. One that has been altered since it was fetched is fetched anew.</summary>
    private async Task<(string Incoming, VerifiedFile File)> UnpackAsync(PresentFile present, InstalledApp after, PlanItem item, CancellationToken cancel)
    {
        var incoming = _shelf.MakeIncoming(after);
        ExceptionDispatchInfo? fault = null;
        try
        {
            Unpacker.Unpack(present, item.Artifact!, incoming, cancel);
        }
        catch (ProblemException refused)
        {
            fault = ExceptionDispatchInfo.Capture(refused);
        }

        if (await present.Check is { } file)
        {
            fault?.Throw();
            return (incoming, file);
        }

        _shelf.DropIncoming(after.Id);
        file = await _downloads.GetAsync(WantedFile.Of(item), null, cancel);
        incoming = _shelf.MakeIncoming(after);
        Unpacker.Unpack(PresentFile.Of(file), item.Artifact!, incoming, cancel);
        return (incoming, file);
    }

    private List<string> Remove(ItemPlace place, Action<RunEvent> watch, CancellationToken cancel)
    {
        var app = place.Item.Installed!;
        watch(new RunEvent.StageBegins(place, RunStage.Removing));
        var notes = Notes(_switch.Go(app, null, cancel: cancel));
        if (RunningApps.In(_layout.ShelfOf(app.Id)).Count == 0) _shelf.DropAll(app.Id);
        else notes.Add($"{app.Id} is still open; its files stay until a later run finds it closed");
        return notes;
    }

    private static List<string> Notes(IReadOnlyList<string> edited) => [.. edited.Select(path => $"{path} was changed by hand and has been left as it is")];
}
