using System.Runtime.ExceptionServices;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Runs;

/// <summary>Changes one app: installs a version, uninstalls the app, or notes what it follows from now on.</summary>
/// <param name="tools">What it works with.</param>
/// <param name="clock">The clock.</param>
internal sealed class AppChange(RunTools tools, TimeProvider clock)
{
    private const int MostTries = 20;
    private const string InstallerFolders = "installer-", TrialFolders = "trial-";
    private static readonly TimeSpan LookAgain = TimeSpan.FromSeconds(1),
        FreshLook = TimeSpan.FromMilliseconds(200);

    private (long At, IReadOnlySet<AppId> Open)? _looked;

    private readonly AppSwitch _switch = new(tools.Placing.Shelf, tools.Placing.Placer, tools.Records);

    /// <summary>The folders that foreign programs of this or an earlier run work in.</summary>
    public static IEnumerable<string> WorkFolders(MachineLayout layout) => !Directory.Exists(layout.CacheFolder) ? []
        : new[] { InstallerFolders, TrialFolders }
            .SelectMany(names => Directory.EnumerateDirectories(layout.CacheFolder, names + "*"))
            .Concat(VersionReading.LeftFolders(layout));

    /// <summary>Carries an item out.</summary>
    /// <param name="place">The item.</param>
    /// <param name="present">Its artifacts; empty where it needs none.</param>
    /// <param name="telling">Whom to tell, and how to stop.</param>
    /// <returns>What the user should know also.</returns>
    public async Task<IReadOnlyList<string>> CarryOutAsync(
        ItemPosition place, IReadOnlyList<PresentFile> present, ChangeContext telling)
    {
        var item = place.Item;
        if (item.Action == PlanAction.Remember)
        {
            var remembered = item.Installed! with { Follows = item.Follows, IsDependency = item.IsDependency };
            tools.Placing.Shelf.Note(remembered);
            tools.Records.Remember(remembered);
            return [];
        }

        await WaitUntilClosedAsync(place, telling);
        if (!telling.Consent.EvenInUse) RequireClosed(item);
        if (item.Action == PlanAction.Remove) _switch.TakeAwayUnreached(item.Installed!.Id);
        else if (_switch.StillStuck(item.App!) is { } stuck) throw stuck.ToException();
        if (item.Restores is { } state) return Restore(place, state, telling);
        return present.Count == 0 ? Remove(place, telling) : await InstallVersionAsync(place, present, telling);
    }

    /// <summary>Waits until a user has closed an app, as long as that is wanted.</summary>
    private async Task WaitUntilClosedAsync(ItemPosition place, ChangeContext telling)
    {
        if (telling.Consent.EvenInUse || place.Item.Installed is not { } app) return;
        var isTold = false;
        while (clock.GetUtcNow() < telling.WaitsUntil && RunningApps.In(tools.Layout.ShelfOf(app.Id)).Count > 0)
        {
            if (!isTold)
                telling.Tell(new RunEvent.Waits(place, telling.WaitsUntil - clock.GetUtcNow(), $"{app.Id} is in use; close it"));
            isTold = true;
            await Task.Delay(LookAgain, clock, telling.Soon);
        }
    }

    /// <summary>Refuses to change an app that a user has open.</summary>
    private void RequireClosed(PlanItem item)
    {
        if (item.Installed is null || !MayBeOpen(item.Installed.Id)
            || RunningApps.In(tools.Layout.ShelfOf(item.Installed.Id)) is not { Count: > 0 } running) return;
        throw new Problem(
            ProblemCode.InUse,
            $"{item.Id} {item.From} is in use",
            string.Join(", ", running.Select(one => $"process {one.Process}, {one.Name}")),
            "close it; --even-in-use changes it anyway").ToException();
    }

    /// <summary>
    /// Whether an app was open a moment ago: one look at all processes serves many apps. A user may still open
    /// it in the next moment, however fresh the look.
    /// </summary>
    private bool MayBeOpen(AppId id)
    {
        if (_looked is not { } look || clock.GetElapsedTime(look.At) > FreshLook)
            _looked = look = (clock.GetTimestamp(), RunningApps.IdsIn(tools.Layout.ShelfFolder));
        return look.Open.Contains(id);
    }

    private async Task<IReadOnlyList<string>> InstallVersionAsync(
        ItemPosition place, IReadOnlyList<PresentFile> present, ChangeContext telling)
    {
        var item = place.Item;
        var (card, release) = (item.Offer!.Card, item.Release!);
        var after = StateAfter(item);
        try
        {
            telling.Tell(new RunEvent.StageBegins(place, RunStage.Unpacking));
            var (incoming, files) = await UnpackAsync(present, after, item, telling.Cancel);
            RequireConfined(item, telling);
            var mustRestart = item.RunsInstaller && RunInstaller(files[0], item, after, incoming, telling);
            OwnFiles.Add(incoming, card.PlacementOf(release));
            var manifest = ShelfManifest.Scan(incoming, telling.Cancel);
            after = after with { Placed = tools.Placing.Placer.List(card, release, incoming), Size = manifest.Size };
            tools.Placing.Placer.RequireFreeWay(
                after, item.Installed is null && tools.Placing.Shelf.IsInFront(after.Id), item.Installed, OthersThan(after));
            telling.Tell(new RunEvent.StageBegins(place, RunStage.Placing));
            after = tools.Placing.Shelf.Accept(after, incoming, files, manifest, item.Installed);
            if (!telling.Consent.EvenInUse) RequireClosed(item);
            var kept = KeptCard.FromCard(card, release, item.Delivery!, after.Sha256, item.Offer.Base);
            var notes = Notes(
                _switch.SwitchTo(item.Installed, after, () => TryStart(card, release, after, telling), kept, telling.Cancel));
            notes.AddRange(tools.Placing.Placer.Remarks(after));
            if (item.Delivery!.Files.Any(one => one.Format == ArtifactFormat.Deb))
                notes.AddRange([.. tools.Placing.Placer.LinksToNothing(after), .. tools.Placing.Placer.PartsOfSystem(after)]);
            notes.AddRange(Unconfined(item, telling));
            if (mustRestart) notes.Add("its installer says: restart the machine to finish");
            return notes;
        }
        catch
        {
            tools.Placing.Shelf.DropIncoming(after.Id);
            if (item.Installed?.ShelfName != after.ShelfName && !_switch.IsOpen(after.Id)) tools.Placing.Shelf.Drop(after);
            throw;
        }
    }

    /// <summary>Goes to a state whose version is on the shelf already.</summary>
    private List<string> Restore(ItemPosition place, InstalledApp state, ChangeContext telling)
    {
        var before = place.Item.Installed;
        telling.Tell(new RunEvent.StageBegins(place, RunStage.Placing));
        tools.Placing.Placer.RequireFreeWay(
            state, before is null && tools.Placing.Shelf.IsInFront(state.Id), before, OthersThan(state));
        var notes = Notes(_switch.SwitchTo(before, state, cancel: telling.Cancel));
        if (tools.Placing.Shelf.NoteOf(state.Id, state.ShelfName) is not { } noted
            || (noted.Follows, noted.IsDependency) != (state.Follows, state.IsDependency)) tools.Placing.Shelf.Note(state);
        return notes;
    }

    /// <summary>The plan has refused this already; nothing that came later may step around it.</summary>
    private void RequireConfined(PlanItem item, ChangeContext telling)
    {
        if (new ForeignProgram(tools.Confinement, telling.Consent).Obstacle(item) is { } obstacle) throw obstacle.ToException();
    }

    /// <summary>What ran without being confined, or did not run since it could not be.</summary>
    private IEnumerable<string> Unconfined(PlanItem item, ChangeContext telling)
    {
        var isTried = item.Offer!.Card.PlacementOf(item.Release!).Check is not null;
        if (!(item.RunsInstaller || isTried) || tools.Confinement.IsConfined) yield break;
        if (item.RunsInstaller) yield return "its installer ran without confinement";
        if (isTried && new ForeignProgram(tools.Confinement,
            telling.Consent).MayRun) yield return "it was started once without confinement";
        else if (isTried) yield return PlanNote.NotTried().Text.ToString();
    }

    private InstalledApp StateAfter(PlanItem item)
    {
        var (offer, release) = (item.Offer!, item.Release!);
        var files = item.FilesToFetch.Select(one => new DeliveredFile(Words(one.File.Location.Resolve(offer.Base)), one.Digest))
            .ToList();
        return new InstalledApp
        {
            Id = offer.Card.Id, Name = offer.Card.Name, Kind = offer.Card.Kind, Version = release.Version,
            Architecture = item.Delivery!.Platform.Architecture,
            Line = release.Line, Released = release.Date, Catalogue = offer.Catalogue,
            CatalogueLocation = item.PutsBack is { } back
                ? back.CatalogueLocation
                : tools.Records.Catalogues().FirstOrDefault(one => one.Name == offer.Catalogue)?.Location,
            Follows = item.Follows,
            Needs = offer.Card.NeedsOf(release), Conflicts = offer.Card.ConflictsOf(release),
            InstallerArguments = item.InstallerArguments,
            InstalledAt = clock.GetUtcNow(), Source = files[0].Source,
            Sha256 = item.DeliveryDigest!, SeveralFiles = files.Count > 1 ? files : null,
            IsDigestStated = item.StatedSha256 is not null,
            IsUnsigned = item.IsUnsigned,
            HasReplaced = item.Action == PlanAction.Replace
                || (item.Action == PlanAction.Repair && item.Installed?.HasReplaced == true),
            IsDependency = item.IsDependency, Platform = item.Platform, IsProtected = offer.Card.IsProtected, UpdatesItself =
                offer.Card.UpdatesItself,
            Settings = offer.Card.Settings.Count > 0 ? offer.Card.Settings : null, VersionSource = offer.Card.VersionSource,
        };
    }

    private static string Words(Uri address) => address.IsFile ? address.LocalPath : address.AbsoluteUri;

    /// <summary>Has the vendor's installer fill the folder.</summary>
    private bool RunInstaller(VerifiedFile file, PlanItem item, InstalledApp after, string incoming, ChangeContext telling)
    {
        telling.Log.Write(
            item.Id, tools.Confinement.IsConfined ? "runs its installer, confined by bwrap" : "runs its installer, not confined");
        var run = new InstallerRun(tools.Confinement, Path.Combine(tools.Layout.CacheFolder, $"{InstallerFolders}{item.Id}"));
        var call = new InstallerCall(file, item.Delivery!.Files[0], item.InstallerArguments) { IsAttended = item.IsAttended };
        if (item.IsAttended)
            telling.Log.Write(item.Id, "a user answers it; what it says and what is typed are not kept");
        return run.Run(
            call, incoming, tools.Placing.Shelf.FolderOf(after),
            item.IsAttended ? _ => { }
        : line => telling.Log.Write(item.Id, $"> {line}"), telling.Cancel);
    }

    /// <summary>Starts the app as its card says, and returns the fault; null for none.</summary>
    private string? TryStart(AppCard card, Release release, InstalledApp after, ChangeContext telling)
    {
        if (card.PlacementOf(release).Check is not { } check
            || !new ForeignProgram(tools.Confinement, telling.Consent).MayRun) return null;
        telling.Log.Write(card.Id.Text, $"starts {check.CommandLine} to see whether it works");
        var place = card.PlacementOf(release);
        var program = place.StartOf(place.Commands.First(command => command.Name == check.Command));
        var trial = new StartTrial(tools.Confinement, Path.Combine(tools.Layout.CacheFolder, $"{TrialFolders}{card.Id}"));
        return trial.Fault(
            check, release.Version, tools.Placing.Shelf.FolderOf(after), program,
            line => telling.Log.Write(card.Id.Text, $"> {line}"), telling.Cancel);
    }

    /// <summary>The other apps on record, read only where someone asks.</summary>
    private IEnumerable<InstalledApp> OthersThan(InstalledApp one)
    {
        foreach (var app in tools.Records.Apps())
        {
            if (app.Id != one.Id) yield return app;
        }
    }

    /// <summary>
    /// Unpacks artifacts while their digests are being taken. One that has been altered since it was downloaded, or that
    /// another run
    /// has dropped from the cache, is downloaded again.
    /// </summary>
    private async Task<(string Incoming, IReadOnlyList<VerifiedFile> Files)> UnpackAsync(
        IReadOnlyList<PresentFile> present, InstalledApp after, PlanItem item, CancellationToken cancel)
    {
        for (var tries = 1; ; tries++)
        {
            var incoming = tools.Placing.Shelf.MakeIncoming(after);
            var (unpacked, fault) = UnpackAll(present, item.Delivery!.Files, incoming, cancel);
            var files = await Task.WhenAll(present.Select(one => one.Check));
            if (files.Index().All(one => one.Item is { } file
                && file.Identity == (unpacked.ElementAtOrDefault(one.Index) ?? FileIdentity.At(file.Path))))
            {
                fault?.Throw();
                if (unpacked.Count == files.Length && !unpacked.Contains(null))
                    return (incoming, [.. files.OfType<VerifiedFile>()]);
            }

            if (tries == MostTries)
                throw new Problem(
                    ProblemCode.NotVerified,
                        $"the download of {item.Id} is changed or removed again and again while it is unpacked",
                    remedy: "find out who else uses the download cache, or set cache_folder to another folder").ToException();
            tools.Placing.Shelf.DropIncoming(after.Id);
            var again = new List<PresentFile>();
            foreach (var wanted in WantedFile.ListFor(item))
                again.Add(PresentFile.FromVerified(await tools.Downloads.GetAsync(wanted, null, cancel)));
            present = again;
        }
    }

    /// <summary>Unpacks artifacts until one cannot be unpacked.</summary>
    /// <returns>Which files were unpacked, null for one that was changed meanwhile; and what the next one failed of.</returns>
    private static (List<FileIdentity?> Unpacked, ExceptionDispatchInfo? Fault) UnpackAll(
        IReadOnlyList<PresentFile> present, IReadOnlyList<Artifact> artifacts, string incoming, CancellationToken cancel)
    {
        var unpacked = new List<FileIdentity?>();
        try
        {
            var unpacker = new Unpacker(incoming, cancel);
            foreach (var (file, artifact) in present.Zip(artifacts)) unpacked.Add(unpacker.Add(file, artifact));
            unpacker.End();
            return (unpacked, null);
        }
        catch (Exception refused) when (refused is ProblemException or FileNotFoundException)
        {
            return (unpacked, ExceptionDispatchInfo.Capture(refused));
        }
    }

    private List<string> Remove(ItemPosition place, ChangeContext telling)
    {
        var app = place.Item.Installed!;
        telling.Tell(new RunEvent.StageBegins(place, RunStage.Removing));
        var notes = Notes(_switch.SwitchTo(app, null, cancel: telling.Cancel));
        notes.AddRange(app.Placed.Where(item => Posix.IsThere(tools.Layout.PathOf(item.Kind, item.Name))
            && tools.Placing.Placer.IsAsPlaced(app, item))
            .Select(item => $"{tools.Layout.PathOf(item.Kind, item.Name)} is still there"));
        var isOpen = RunningApps.In(tools.Layout.ShelfOf(app.Id)).Count > 0;
        if (!isOpen) notes.AddRange(DropFiles(app));
        notes.AddRange(DropSettings(place.Item.RemovedSettings));
        if (isOpen) notes.Add($"{app.Id} is still open; its files stay until a later run finds it closed");
        return notes;
    }

    /// <summary>Removes the files of an app that is uninstalled already: what keeps them is no failure of that.</summary>
    private IEnumerable<string> DropFiles(InstalledApp app)
    {
        try
        {
            tools.Placing.Shelf.DropAll(app.Id);
            return [];
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            var why = IoProblems.ToProblem(fault, "they cannot be deleted").Why;
            return [$"it is uninstalled, but some of its files stay in {tools.Layout.ShelfOf(app.Id)}: {why}"];
        }
    }

    private static IEnumerable<string> DropSettings(IReadOnlyList<string> paths)
    {
        try
        {
            KeptSettings.Remove(paths);
            return [];
        }
        catch (Exception fault) when (IoProblems.IsExpected(fault))
        {
            return [$"some of its settings stay: {IoProblems.ToProblem(fault, "they cannot be deleted").Why}"];
        }
    }

    private static List<string> Notes(IReadOnlyList<string> edited) =>
        [.. edited.Select(path => $"{path} was changed by hand and has been left as it is")];
}
