using AmberCrate.Core.Cards;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;

namespace AmberCrate.Engine.Runs;

/// <summary>Carries a plan out, app by app. Each ends in one outcome, and the failure of one does not stop the others.</summary>
public sealed class Runner
{
    private static readonly TimeSpan Moment = TimeSpan.FromSeconds(1), LongestWait = TimeSpan.FromMinutes(10);

    private readonly MachineLayout _layout;
    private readonly RecordStore _records;
    private readonly DownloadCache _downloads;
    private readonly PlacingTools _placing;
    private readonly Settings _settings;
    private readonly TimeProvider _clock;
    private readonly CallOptions _call;
    private readonly AppChange _change;

    /// <summary>Makes a runner for a root whose lock the caller holds.</summary>
    /// <param name="tools">What it works with.</param>
    /// <param name="settings">What the user has set.</param>
    /// <param name="clock">The clock.</param>
    /// <param name="call">The options of the call, for commands that are suggested.</param>
    public Runner(RunTools tools, Settings settings, TimeProvider clock, CallOptions call)
    {
        (_layout, _records, _downloads, _placing, _) = tools;
        (_settings, _clock, _call) = (settings, clock, call);
        _change = new AppChange(tools, clock);
    }

    /// <summary>The digests of the files that undo can need: they stay in the cache.</summary>
    public Func<IReadOnlySet<string>> UndoFiles { get; init; } = () => new HashSet<string>();

    /// <summary>The lock of the root, which is released while the run waits for a server; null for a run without one.</summary>
    public RunLock? Lock { get; init; }

    /// <summary>
    /// Carries a plan out: adds its catalogues, fetches several artifacts at a time, and changes one app after the other.
    /// </summary>
    /// <param name="confirmed">The plan.</param>
    /// <param name="command">The command as it was typed, for the record.</param>
    /// <param name="watch">Receives the events, one event at a time.</param>
    /// <param name="signals">Stops the run.</param>
    /// <param name="consent">What the user has agreed to.</param>
    /// <param name="who">The name of the user, for the record; null for unknown.</param>
    public async Task<RunReport> RunAsync(
        ConfirmedPlan confirmed, string command, Action<RunEvent> watch, RunSignals signals, RunConsent consent,
        string? who = null)
    {
        var plan = confirmed.Plan;
        if (!plan.Changes) return await GoAsync(plan, watch, (_, _, _, _) => Task.FromResult<IReadOnlyList<string>>([]), signals);
        var run = WithReserve(plan, () => _records.BeginRun(command, who, plan));
        using var log = RunLog.Begin(_layout, run, _settings.KeptLogs, _clock, _call);
        log.Write($"{command}, process {Environment.ProcessId}");
        AddCatalogues(plan.Solved, run, log);
        _records.ChangePins(run, plan.Solved.Pins);
        foreach (var pin in plan.Solved.Pins) log.Write(pin.After is { } set ? $"{pin.App} is {set.Words}"
            : $"lifted the pin of {pin.App}");
        var lists = new DesktopCacheJournal(_layout, _placing.Caches);
        lists.Note(plan.Items.SelectMany(PlanSurvey.KindsOf));
        var closed = _clock.GetUtcNow() + consent.WaitClosed;
        var report = await GoAsync(
            plan, Watched(watch, log),
            (place, transfers, tell, isLast) => ChangeAsync(place, transfers, new ChangeContext(tell, log, consent, signals.Now)
            {
                WaitsUntil = isLast ? closed : DateTimeOffset.MinValue, Soon = signals.Soon,
            }),
            signals, consent.WaitClosed > TimeSpan.Zero && !consent.EvenInUse);
        report = report with { Number = run, Log = log.File };
        try
        {
            return WithReserve(plan, () => Close(plan, report, run, lists, log));
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            // The apps are as the report says, whatever becomes of the record of the run.
            return report with
            {
                Unclosed = IoProblems.ToProblem(fault, $"run {run} ended as shown above, but its record could not be closed"),
            };
        }
    }

    private RunReport Close(SurveyedPlan plan, RunReport report, long run, DesktopCacheJournal lists, RunLog log)
    {
        lists.End(
            report.Items.Where(item => item.Outcome.IsDone()).SelectMany(item => PlanSurvey.KindsOf(item.Item)),
            log.Write);
        log.Write(report.Interrupted ? "stopped by a user" : "ended");
        DropCatalogues(plan.Solved, run, log);
        _records.EndRun(run, report);
        return report;
    }

    /// <summary>What only removes apps must work on a full disk, too.</summary>
    private T WithReserve<T>(SurveyedPlan plan, Func<T> act) =>
        plan.Items.All(item => !item.PutsOn) ? RoomReserve.WithReserve(_layout, act) : act();

    /// <summary>Fetches what a plan needs into the cache, and changes nothing else.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="watch">Receives the events, one event at a time.</param>
    /// <param name="cancel">Stops; what has arrived stays for another time.</param>
    public Task<RunReport> PrefetchAsync(SurveyedPlan plan, Action<RunEvent> watch, CancellationToken cancel) =>
        GoAsync(plan, watch, (place, transfers, _, _) =>
            FetchOnlyAsync(place, transfers, cancel), new RunSignals(cancel, cancel));

    private static Action<RunEvent> Watched(Action<RunEvent> watch, RunLog log) => happened =>
    {
        log.WriteEvent(happened);
        watch(happened);
    };

    private void AddCatalogues(Plan plan, long run, RunLog log)
    {
        foreach (var catalogue in plan.AddedCatalogues)
        {
            _records.AddCatalogue(
                run, new RegisteredCatalogue(catalogue.Name, catalogue.Location)
                {
                    Trust = catalogue.Trust, Mirrors = catalogue.Mirrors,
                });
            log.Write($"added the catalogue {catalogue.Name}, {catalogue.Location}");
        }
    }

    private void DropCatalogues(Plan plan, long run, RunLog log)
    {
        foreach (var catalogue in plan.DroppedCatalogues)
        {
            _records.DropCatalogue(
                run, new RegisteredCatalogue(catalogue.Name, catalogue.Location)
                {
                    Trust = catalogue.Trust, Mirrors = catalogue.Mirrors,
                });
            log.Write($"dropped the catalogue {catalogue.Name}, {catalogue.Location}");
        }
    }

    private async Task<RunReport> GoAsync(
        SurveyedPlan plan, Action<RunEvent> watch, Func<ItemPosition, PlanTransfers, Action<RunEvent>, bool,
            Task<IReadOnlyList<string>>> act,
        RunSignals signals, bool waitsForClosing = false)
    {
        var begun = _clock.GetTimestamp();
        var guard = new Lock();
        void Tell(RunEvent happened)
        {
            lock (guard) watch(happened);
        }

        var places = Places(plan);
        using var transfers = new PlanTransfers(_downloads, _settings.Downloads, Tell, signals.Soon);
        Tell(new RunEvent.Begins(places.Count(place => place.Number > 0), plan.Solved.DownloadSize));
        foreach (var place in places.Where(place => place.Item.Fetches)) transfers.Begin(place);
        var reports = new List<ItemReport>();
        var remaining = new List<ItemPosition>(places);
        var awaited = new HashSet<PlanItem>(ReferenceEqualityComparer.Instance);
        var open = new HashSet<PlanItem>(ReferenceEqualityComparer.Instance);
        Problem? changed = null;
        while (remaining.Count > 0)
        {
            var next = NextAsync(remaining, transfers, awaited);
            if (changed is null && Lock is not null) changed = await WaitUnlockedAsync(next, Lock);
            var place = await next;
            remaining.Remove(place);
            var isAwaited = open.Contains(place.Item);
            var report = (changed is not null && place.Item.Changes && !signals.Soon.IsCancellationRequested
                    ? new ItemReport(place.Item, Outcome.Failed, changed) : null)
                ?? MissingNeed(place.Item, reports)
                ?? await RunOneAsync(place, () => act(place, transfers, Tell, isAwaited), signals);
            if (waitsForClosing && report.Outcome == Outcome.InUse && open.Add(place.Item))
            {
                // The others do not wait for it: it has its turn again behind them.
                remaining.Add(place);
                continue;
            }

            reports.Add(report);
            Tell(new RunEvent.ItemEnds(place, report));
        }

        reports = [.. plan.Items.Select(item => reports.Find(report => ReferenceEquals(report.Item, item))!)];

        await transfers.StopAsync();
        Prune(plan);
        var isInterrupted = signals.Soon.IsCancellationRequested && reports.Exists(report => report.Outcome == Outcome.Skipped);
        return new RunReport(reports, isInterrupted) { Took = _clock.GetElapsedTime(begun) };
    }

    /// <summary>
    /// Waits for the next item. If that takes long, the lock is released meanwhile, so that a slow server keeps no other command
    /// waiting.
    /// </summary>
    /// <returns>Why the rest of the plan cannot be carried out; null if nothing has changed.</returns>
    private async Task<Problem?> WaitUnlockedAsync(Task next, RunLock held)
    {
        if (await Task.WhenAny(next, Task.Delay(Moment)) == next) return null;
        var before = _records.ChangesByOthers();
        held.Release();
        await Task.WhenAny(next);
        try
        {
            held.Retake(LongestWait);
        }
        catch (ProblemException taken)
        {
            return taken.Problem;
        }

        return _records.ChangesByOthers() == before ? null : new Problem(
            ProblemCode.Locked, "another command changed this machine during the download",
            "the plan may no longer fit; what was downloaded is kept", NextCommand.Create("retry"));
    }

    /// <summary>
    /// The next item to process: the first of the plan whose file is there and that waits for nothing else, so that a
    /// small app does not wait for a large one that it has nothing to do with.
    /// </summary>
    /// <param name="remaining">The items that are still to be done, in the order of the plan.</param>
    /// <param name="transfers">Their files.</param>
    /// <param name="awaited">Items whose turn it was and whose file was not there at once: each is given a moment, so that the
    /// order of the plan is kept where that costs nothing.</param>
    private static async Task<ItemPosition> NextAsync(
        List<ItemPosition> remaining, PlanTransfers transfers, HashSet<PlanItem> awaited)
    {
        while (true)
        {
            var (ready, free) = FindReady(remaining, transfers);
            var first = free.FirstOrDefault();
            if (first is not null && first != ready && awaited.Add(first.Item))
                await Task.WhenAny(transfers.FilesOf(first.Item), Task.Delay(Moment));
            else if (ready is not null) return ready;
            else await Task.WhenAny(free.Select(place => transfers.FilesOf(place.Item)));
        }
    }

    /// <summary>The first item that can be begun now, and all that wait for nothing but their file, in order.</summary>
    private static (ItemPosition? Ready, List<ItemPosition> Free) FindReady(List<ItemPosition> remaining, PlanTransfers transfers)
    {
        var waited = new HashSet<string>(StringComparer.Ordinal);
        var waitedNeeds = new HashSet<string>(StringComparer.Ordinal);
        var free = new List<ItemPosition>();
        foreach (var place in remaining)
        {
            var needs = NeedsOf(place.Item).ToList();
            if (!needs.Exists(waited.Contains) && !waitedNeeds.Contains(place.Item.Id))
            {
                free.Add(place);
                if (!place.Item.Fetches || transfers.FilesOf(place.Item).IsCompleted) return (place, free);
            }

            waited.Add(place.Item.Id);
            waitedNeeds.UnionWith(needs);
        }

        return (null, free);
    }

    /// <summary>The apps that an item has to do with, as it is and as it will be: their order in the plan is kept.</summary>
    private static IEnumerable<string> NeedsOf(PlanItem item)
    {
        IEnumerable<RelatedApp> before = item.Installed is { } app ? [.. app.Needs, .. app.Conflicts] : [];
        IEnumerable<RelatedApp> after = item.Fetches
            ? [.. item.Offer!.Card.NeedsOf(item.Release!), .. item.Offer.Card.ConflictsOf(item.Release!)]
            : [];
        return before.Concat(after).Select(other => other.Id.Text);
    }

    private static List<ItemPosition> Places(SurveyedPlan plan)
    {
        var count = plan.Items.Count(item => item.Changes);
        var number = 0;
        return [.. plan.Items.Select(item => new ItemPosition(item.Changes ? ++number : 0, count, item))];
    }

    private void Prune(SurveyedPlan plan)
    {
        try
        {
            _downloads.Prune(plan.Solved.FilesToFetch.Select(file => file.Digest).ToHashSet(), UndoFiles);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            // A cache that cannot be tidied is no reason to fail; the next run tries again.
        }
    }

    /// <summary>
    /// An app is not installed when what it needs could not be, and not uninstalled when an app that needs it could not be.
    /// </summary>
    private static ItemReport? MissingNeed(PlanItem item, List<ItemReport> reports)
    {
        if (item.Action == PlanAction.Remove) return StillNeeded(item, reports);
        if (!item.Fetches) return null;
        var needs = item.Offer!.Card.NeedsOf(item.Release!).Select(need => need.Id.Text).ToHashSet(StringComparer.Ordinal);
        if (reports.Find(report => report.Outcome == Outcome.Failed && needs.Contains(report.Item.Id)) is not { } missing)
            return null;
        return new ItemReport(item, Outcome.Failed, new Problem(
            missing.Problem!.Code, $"{item.Id} {item.To} cannot be installed", $"{missing.Item.Id}, which it needs, has failed",
            "see there"));
    }

    private static ItemReport? StillNeeded(PlanItem item, List<ItemReport> reports)
    {
        var stays = reports.Find(report => report.Item.Action == PlanAction.Remove && !report.Outcome.IsDone()
            && report.Item.Installed!.Needs.Any(need => need.Id.Text == item.Id));
        return stays is null ? null : new ItemReport(
            item, stays.Outcome == Outcome.Skipped ? Outcome.Skipped : Outcome.Failed, stays.Outcome == Outcome.Skipped ? null
            : new Problem(
                stays.Problem?.Code ?? ProblemCode.Refused, $"{item.Id} {item.From} cannot be uninstalled",
                $"{stays.Item.Id}, which needs it, has not been uninstalled", "see there"));
    }

    private async Task<ItemReport> RunOneAsync(
        ItemPosition place, Func<Task<IReadOnlyList<string>>> act, RunSignals signals, bool isFirst = true)
    {
        var item = place.Item;
        if (!item.Changes) return ItemReport.OfUntouched(item);
        if (signals.Soon.IsCancellationRequested) return new ItemReport(item, Outcome.Skipped);
        try
        {
            var notes = await act();
            return new ItemReport(item, item.Action == PlanAction.Remember ? Outcome.Unchanged : Outcome.Done) { Notes = notes };
        }
        catch (Exception fault) when (item.Action == PlanAction.Remove && isFirst && IoProblems.IsNoRoom(fault)
            && RoomReserve.GiveUp(_layout))
        {
            return await RunOneAsync(place, act, signals, isFirst: false);
        }
        catch (OperationCanceledException) when (signals.Soon.IsCancellationRequested)
        {
            return new ItemReport(item, Outcome.Skipped);
        }
        catch (ProblemException open) when (open.Problem.Code == ProblemCode.InUse)
        {
            return new ItemReport(item, Outcome.InUse, open.Problem);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            return new ItemReport(item, Outcome.Failed, IoProblems.ToProblem(fault, item.Action == PlanAction.Remove
                ? $"{item.Id} {item.From} cannot be uninstalled"
                : $"{item.Id} {item.To} cannot be installed"));
        }
    }

    private async Task<IReadOnlyList<string>> ChangeAsync(ItemPosition place, PlanTransfers transfers, ChangeContext context)
    {
        var present = place.Item.Fetches ? await transfers.FilesOf(place.Item) : [];
        return await _change.CarryOutAsync(place, present, context);
    }

    private async Task<IReadOnlyList<string>> FetchOnlyAsync(
        ItemPosition place, PlanTransfers transfers, CancellationToken cancel)
    {
        if (!place.Item.Fetches) return [];
        foreach (var (present, wanted) in (await transfers.FilesOf(place.Item)).Zip(WantedFile.ListFor(place.Item)))
        {
            if (await present.Check is null) await _downloads.GetAsync(wanted, null, cancel);
        }

        return [];
    }
}
