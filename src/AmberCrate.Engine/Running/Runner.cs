using AmberCrate.Core.Machine;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Transfers;
using AmberCrate.Engine.Unpacking;

namespace AmberCrate.Engine.Running;

/// <summary>Carries a plan out, app by app. Each ends in one outcome, and the failure of one does not stop the others.</summary>
public sealed class Runner
{
    private readonly MachineLayout _layout;
    private readonly RecordStore _records;
    private readonly DownloadCache _downloads;
    private readonly TimeProvider _clock;
    private readonly Shelf _shelf;
    private readonly Placer _placer;
    private readonly AppSwitch _switch;

    /// <summary>Makes a runner for a root whose lock the caller holds.</summary>
    public Runner(MachineLayout layout, RecordStore records, DownloadCache downloads, TimeProvider clock)
    {
        (_layout, _records, _downloads, _clock) = (layout, records, downloads, clock);
        _shelf = new Shelf(layout);
        _placer = new Placer(layout);
        _switch = new AppSwitch(_shelf, _placer, records);
    }

    /// <summary>Reverts what an earlier run left in the middle.</summary>
    /// <returns>The ids of the apps that were reverted.</returns>
    public IReadOnlyList<string> RevertUnsettled()
    {
        _downloads.DropPartial();
        return _switch.RevertUnsettled();
    }

    /// <summary>Refuses a plan that could not be carried out: to be asked before anything changes, for every folder that the plan writes to.</summary>
    /// <param name="plan">The plan.</param>
    /// <exception cref="ProblemException">A folder cannot be written or made.</exception>
    public void RequireRights(Plan plan)
    {
        if (!plan.Changes) return;
        var folders = new List<string> { _layout.ShelfFolder, _layout.FrontFolder, _layout.DownloadsFolder };
        folders.AddRange(Enum.GetValues<PlaceKind>().Select(kind => Path.GetDirectoryName(_layout.PathOf(kind, "x"))!));
        foreach (var folder in folders)
        {
            var existing = folder;
            while (!Directory.Exists(existing) && !File.Exists(existing)) existing = Path.GetDirectoryName(existing)!;
            if (File.Exists(existing))
                throw new Problem(ProblemCode.StateNeedsAttention, $"{folder} cannot be made", $"{existing} is a file", "move it away, or name another folder with --root").ToException();
            if (!Posix.CanWrite(existing))
                throw new Problem(ProblemCode.NoRights, $"{existing} cannot be written", "nothing has been changed", "check who owns the folder, or name another with --root").ToException();
        }
    }

    /// <summary>Carries a plan out.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="command">The command for the record.</param>
    /// <param name="watch">Is told what happens.</param>
    /// <param name="cancel">Stops fetching and unpacking; a switch in hand is finished, and what is left is skipped.</param>
    public async Task<RunReport> RunAsync(Plan plan, string command, Action<RunEvent> watch, CancellationToken cancel)
    {
        var run = _records.BeginRun(command);
        var reports = new List<ItemReport>();
        var count = plan.Items.Count(item => item.Changes);
        var number = 0;
        foreach (var item in plan.Items)
        {
            if (item.Changes) number++;
            var place = item.Changes ? number : 0;
            var report = MissingNeed(item, reports) ?? await RunOneAsync(item, stage => watch(new RunEvent.StageBegins(place, count, item, stage)), (arrived, expected) => watch(new RunEvent.BytesArrive(place, count, item, arrived, expected)), cancel);
            reports.Add(report);
            watch(new RunEvent.ItemEnds(place, count, report));
        }

        var result = new RunReport(reports, cancel.IsCancellationRequested && reports.Exists(report => report.Outcome == Outcome.Skipped));
        _records.EndRun(run, result);
        return result;
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

    private async Task<ItemReport> RunOneAsync(PlanItem item, Action<RunStage> begin, ByteCount bytes, CancellationToken cancel)
    {
        if (!item.Changes)
        {
            return new ItemReport(item, item.Action switch
            {
                PlanAction.StayPinned => Outcome.Pinned,
                PlanAction.Cannot => Outcome.NotOffered,
                _ => Outcome.Unchanged,
            });
        }

        if (cancel.IsCancellationRequested) return new ItemReport(item, Outcome.Skipped);
        try
        {
            if (item.Action == PlanAction.Remember) _records.Remember(item.Installed! with { Asked = item.Asked });
            else if (item.Action == PlanAction.Remove) Remove(item.Installed!, begin);
            else await PutOnAsync(item, begin, bytes, cancel);
            return new ItemReport(item, item.Action == PlanAction.Remember ? Outcome.Unchanged : Outcome.Done);
        }
        catch (OperationCanceledException) when (cancel.IsCancellationRequested)
        {
            return new ItemReport(item, Outcome.Skipped);
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            return new ItemReport(item, Outcome.Failed, IoProblems.Of(fault, item.Action == PlanAction.Remove ? $"{item.Id} {item.From} cannot be taken off" : $"{item.Id} {item.To} cannot be put on"));
        }
    }

    private async Task PutOnAsync(PlanItem item, Action<RunStage> begin, ByteCount bytes, CancellationToken cancel)
    {
        var (offer, release, artifact) = (item.Offer!, item.Release!, item.Artifact!);
        var address = artifact.Location.Resolve(offer.Base);
        var after = new InstalledApp
        {
            Id = offer.Card.Id, Name = offer.Card.Name, Kind = offer.Card.Kind, Version = release.Version, Architecture = artifact.Platform.Architecture,
            Line = release.Line, Released = release.Date, Catalogue = offer.Catalogue, Asked = item.Asked, Needs = offer.Card.NeedsOf(release), Conflicts = offer.Card.ConflictsOf(release), InstalledAt = _clock.GetUtcNow(),
            Source = address.IsFile ? address.LocalPath : address.AbsoluteUri, Sha256 = artifact.Sha256,
        };
        try
        {
            begin(RunStage.Fetching);
            var file = await _downloads.GetAsync(artifact, address, bytes, cancel);
            begin(RunStage.Unpacking);
            var incoming = _shelf.MakeIncoming(after);
            Unpacker.Unpack(file, artifact, incoming, cancel);
            after = after with { Placed = _placer.List(offer.Card, release, incoming) };
            _placer.RequireFreeWay(after.Placed, item.Installed, _records.Apps().Where(app => app.Id != after.Id));
            begin(RunStage.Placing);
            _shelf.Accept(after, incoming);
            _switch.Go(item.Installed, after);
        }
        catch
        {
            _shelf.DropIncoming(after.Id);
            if (item.Installed?.ShelfName != after.ShelfName) _shelf.Drop(after);
            throw;
        }
    }

    private void Remove(InstalledApp app, Action<RunStage> begin)
    {
        begin(RunStage.Removing);
        _switch.Go(app, null);
        _shelf.DropAll(app.Id);
    }
}
