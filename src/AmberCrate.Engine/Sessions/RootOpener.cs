using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Rights;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Sessions;

/// <summary>Opens what an operation works on, with the remarks that belong to it.</summary>
/// <param name="session">The session.</param>
internal sealed class RootOpener(Session session)
{
    /// <summary>What a command that asks must be given to run without a terminal.</summary>
    public static readonly IReadOnlyList<string> WithoutTerminal = ["--yes"];

    /// <summary>The problem of a command that should ask and cannot.</summary>
    public static Problem CannotAsk() => new(
        ProblemCode.BadCommandLine, "cannot ask whether to go ahead: there is no terminal", "nothing has been changed",
        "add --yes to go ahead, or --dry-run to see the plan only");

    private bool _hasNotedCache;

    /// <summary>Opens the root for reading.</summary>
    public OpenRoot ToRead() => ToRead(makesCache: false);

    /// <summary>
    /// Opens the root to refresh catalogues. This takes no lock: a slow server must not keep other commands waiting. The cache is
    /// a database with locks of its own.
    /// </summary>
    /// <exception cref="ElevatedRunEndedException">The command has run with more rights.</exception>
    /// <exception cref="ProblemException">The folders may not be written, or belong to another user.</exception>
    public OpenRoot ToRefresh()
    {
        RaiseIfNeeded([]);
        try
        {
            // What an earlier run left in the middle is repaired by the next command of any kind, if no other command is at
            // work.
            RequireOwnHome();
            Locked(makesRoom: false, waits: false).Dispose();
        }
        catch (ProblemException held) when (held.Problem.Code == ProblemCode.Locked)
        {
            session.Host.Trace($"another command holds the lock: {held.Problem.Why}");
        }

        return ToRead(makesCache: true);
    }

    private OpenRoot ToRead(bool makesCache)
    {
        // Another user's links would lead root's own reading anywhere. Others can read no more than they may anyway.
        if (!FolderRights.CanBeRaised && !session.IsHome && FolderRights.Foreign(session.Layout, isNamed: true) is { } foreign)
            throw foreign.ToException();
        var station = OpenRoot.Open(session, session.Layout, held: null, makesCache);
        NoteCache(station);
        return station;
    }

    /// <summary>
    /// Opens the root for reading, with catalogue data that are not older than the user wishes where they are available.
    /// </summary>
    /// <param name="cancel">Stops refreshing.</param>
    public Task<OpenRoot> ToReadFreshAsync(CancellationToken cancel) => FreshAsync(ToRead(), cancel);

    /// <summary>
    /// Opens the other scope for reading beside the user's own; null where it has nothing, or is what was requested.
    /// </summary>
    public OpenRoot? OtherToo(OpenRoot own) => OtherWhere(own, other => other.Apps.Count > 0);

    /// <summary>
    /// Opens the other scope for reading beside the user's own; null where it has no catalogues, or is what was requested.
    /// </summary>
    public OpenRoot? OtherCatalogues(OpenRoot own) => OtherWhere(own, other => other.Catalogues.Count > 0);

    /// <summary>Says where the other scope cannot be read.</summary>
    public void NoteOther(OpenRoot station)
    {
        if (station.Other.Fault is { } fault)
            session.Note($"apps and catalogues {ScopeText.For(station.Other.Layout.Scope)} cannot be read: {fault.What}");
    }

    /// <summary>
    /// Opens the root for changing it; for reading only where just the plan is wanted, or another process will carry it out.
    /// </summary>
    /// <param name="planOnly">Whether just the plan is wanted.</param>
    /// <param name="added">Options that the command needs where there is no terminal.</param>
    /// <exception cref="ProblemException">Rights are missing and cannot be raised, the folders are another user's, or another run
    /// holds the lock.</exception>
    /// <param name="makesRoom">Whether the operation removes things, which must go on where the disk is full.</param>
    public OpenRoot ToChange(bool planOnly, IReadOnlyList<string> added, bool makesRoom = false)
    {
        if (planOnly) return ToRead();
        RequireOwnHome();
        session.Raising?.RequirePossible(added);
        return session.Raising is not null ? ToRead() : Locked(makesRoom);
    }

    /// <summary>
    /// Opens the root for changing it, with catalogue data that are not older than the user wants if they can be refreshed. The
    /// refresh happens before the lock is taken.
    /// </summary>
    public async Task<OpenRoot> ToChangeFreshAsync(RunOptions options, CancellationToken cancel) =>
        ToChangeAfter(await ToLookAsync(options, cancel), options);

    /// <summary>
    /// Opens the root for everything that comes before the lock: refreshing catalogues, and downloading bundles. Then
    /// <see cref="ToChangeAfter"/> takes the lock.
    /// </summary>
    public async Task<OpenRoot> ToLookAsync(RunOptions options, CancellationToken cancel)
    {
        if (!IsToRead(options)) RequireOwnHome();
        var station = IsToRead(options)
            ? ToChange(options.IsDryRun, RootOpener.WithoutTerminal)
            : ToRead(makesCache: FolderRights.Missing(session.Layout) is null);
        return options.AsShown is null ? await FreshAsync(station, cancel) : station;
    }

    /// <summary>Takes the lock after a look. If just the plan is wanted, the look is enough.</summary>
    /// <param name="looking">What <see cref="ToLookAsync"/> opened.</param>
    /// <param name="options">The options of the run.</param>
    public OpenRoot ToChangeAfter(OpenRoot looking, RunOptions options)
    {
        if (IsToRead(options)) return looking;
        looking.Dispose();
        return ToChange(planOnly: false, RootOpener.WithoutTerminal);
    }

    private bool IsToRead(RunOptions options) => options.IsDryRun || session.Raising is not null;

    /// <summary>
    /// Opens the root for a change that needs no plan. Where rights are missing, the whole command runs again with them.
    /// </summary>
    /// <exception cref="ElevatedRunEndedException">It has run with more rights.</exception>
    /// <exception cref="ProblemException">As for <see cref="ToChange"/>.</exception>
    public OpenRoot ToChangeAtOnce(bool makesRoom = false)
    {
        RaiseIfNeeded([]);
        return ToChange(planOnly: false, [], makesRoom);
    }

    /// <summary>
    /// Has the whole command run again with the rights that it takes, where they are missing, and ends with it.
    /// </summary>
    /// <param name="added">Options that the command needs where there is no terminal.</param>
    /// <exception cref="ElevatedRunEndedException">It has run.</exception>
    /// <exception cref="ProblemException">The rights cannot be raised.</exception>
    public void RaiseIfNeeded(IReadOnlyList<string> added)
    {
        if (session.Raising is not { } raising) return;
        raising.RequirePossible(added);
        session.Note($"this needs administrator rights; {raising.By} may ask for a password");
        raising.Run([]);
    }

    private OpenRoot? OtherWhere(OpenRoot own, Func<OtherScope, bool> isWanted)
    {
        NoteOther(own);
        if (own.Layout.Scope != InstallScope.ThisUser || !isWanted(own.Other)) return null;
        var other = OpenRoot.Open(session, session.OtherLayout, held: null);
        NoteCache(other);
        return other;
    }

    private void RequireOwnHome()
    {
        if (session.IsHome && session.Layout.Scope != InstallScope.ThisUser) return;
        if (FolderRights.Foreign(session.Layout, isNamed: !session.IsHome) is { } foreign) throw foreign.ToException();
        if (session.IsHome && !FolderRights.CanBeRaised && session.Host.Variable("SUDO_USER")
            is { Length: > 0 } and not "root" and var person)
            session.Note(
                $"this installs apps for root only, not for {person}; {CallOptions.AllUsersOption} installs them for all users");
    }

    /// <summary>Takes the lock, and puts back what an earlier run left in the middle.</summary>
    private OpenRoot Locked(bool makesRoom, bool waits = true)
    {
        if (makesRoom) return RoomReserve.WithReserve(session.Layout, () => LockedOnce(makesRoom: true, waits));
        return LockedOnce(makesRoom: false, waits);
    }

    private OpenRoot LockedOnce(bool makesRoom, bool waits)
    {
        var held = RunLock.Acquire(
            session.Layout, session.Request.CommandLine, session.Host.Clock, waits ? session.Settings.LockWait : TimeSpan.Zero,
            holder => session.Note($"waiting for another run to end, {holder}"));
        OpenRoot? station = null;
        try
        {
            station = OpenRoot.Open(session, session.Layout, held);
            NoteCache(station);
            NoteRecovered(station);
            if (!makesRoom) RoomReserve.Hold(session.Layout);
            return station;
        }
        catch
        {
            if (station is null) held.Dispose();
            else station.Dispose();
            throw;
        }
    }

    private void NoteRecovered(OpenRoot station)
    {
        var recovery = new Recovery(station.Layout, station.Records, station.Placing);
        var (reverted, stuck) = recovery.RevertUnsettled();
        foreach (var problem in stuck) session.Note($"{problem.What}: {problem.Why}; {problem.Remedy}");
        foreach (var id in reverted) session.Note($"an earlier run was cut off; {id} has been put back as it was");
        recovery.RefreshLists(session.Host.Trace);
        if (recovery.BringUpToDate() is { } unknownYet)
            session.Note($"the records were older than this machine, and have been brought up to date: {unknownYet}");
        if (recovery.PutRightMoved() is { Count: > 0 } moved)
            session.Note($"this folder has been moved; the menu entries of {string.Join(", ", moved)} have been repaired");
        if (recovery.NotOnRecord() is not { Count: > 0 } unknown) return;
        session.Note(
            $"installed, but not in the records: {string.Join(", ", unknown)}; "
                + $"{NextCommand.Create("install", [.. unknown])} records what its catalogue still has");
    }

    private void NoteCache(OpenRoot station)
    {
        if (_hasNotedCache || !(station.Cache.WasRebuilt || station.Cache.IsUnreadable)) return;
        _hasNotedCache = true;
        if (station.Cache.WasRebuilt) session.Note(
            $"the catalogue cache could not be read and was replaced by an empty one; {NextCommand.Create("catalogue refresh")} "
                + $"fills it");
        if (!station.Cache.IsUnreadable) return;
        session.Note(
            $"{station.Layout.CataloguesFile} is damaged or from another version of acrate, and you may not replace it: "
                + $"nothing is "
                + $"known of its catalogues until a user who may write there runs {NextCommand.Create("catalogue refresh")}");
    }

    /// <summary>
    /// A catalogue that cannot be reached never fails the command that wanted fresh data: the old ones are used, and that is
    /// said.
    /// </summary>
    private async Task<OpenRoot> FreshAsync(OpenRoot station, CancellationToken cancel)
    {
        try
        {
            if (!station.Cache.IsUnreadable) await RefreshStaleAsync(station, cancel);
            return station;
        }
        catch
        {
            station.Dispose();
            throw;
        }
    }

    private async Task RefreshStaleAsync(OpenRoot station, CancellationToken cancel)
    {
        var stale = station.Catalogues.Stale();
        if (stale.Count == 0)
        {
            if (station.Catalogues.NeverFetched() is { Count: > 0 } unknown)
                session.Note($"nothing is known yet of the catalogue {string.Join(", ", unknown)}: it has never been "
                    + $"refreshed, and is not now");
            return;
        }

        if (!station.Layout.CanWriteCache)
        {
            var names = string.Join(", ", stale.Select(catalogue => catalogue.Name));
            session.Note(
                $"you may not refresh {names}; older data are used. {NextCommand.Create("catalogue refresh")} updates them");
            return;
        }

        foreach (var failed in await station.Catalogues.RefreshAsync(stale, cancel))
        {
            if (failed.Problem is not { } problem) continue;
            var data = failed.State is { } old
                ? $"using data refreshed {DataAge.Ago(old.Refreshed, session.Now)}"
                : "nothing is known of it yet";
            session.Note(
                $"{failed.Catalogue.Name} could not be refreshed, {data}: "
                    + $"{(problem.Why.Length > 0 ? problem.Why : problem.What)}");
        }
    }
}
