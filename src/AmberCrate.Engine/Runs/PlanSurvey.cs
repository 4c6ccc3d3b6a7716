using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Observing;
using AmberCrate.Engine.Placing;
using AmberCrate.Engine.SystemCalls;

namespace AmberCrate.Engine.Runs;

/// <summary>
/// Looks at the machine for what a plan takes of it and finds in its way, so that the plan gives the whole truth before a byte is
/// fetched.
/// </summary>
/// <param name="layout">Where everything lies.</param>
/// <param name="downloads">What has been fetched already.</param>
/// <param name="placing">Says what is in the way, and what the desktop must learn.</param>
/// <param name="confinement">Says whether foreign programs are confined.</param>
/// <param name="consent">What the user has agreed to.</param>
/// <param name="commands">Says which commands are there already.</param>
public sealed class PlanSurvey(
    MachineLayout layout,
    DownloadCache downloads,
    PlacingTools placing,
    Confinement confinement,
    RunConsent consent,
    CommandPath commands)
{
    /// <summary>The plan without items that something foreign is in the way of, which say so.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="installed">The installed apps, which may own what is in the way.</param>
    public Plan Hindered(Plan plan, IReadOnlyCollection<InstalledApp> installed)
    {
        var obstacles = new Dictionary<string, Problem>(StringComparer.Ordinal);
        var taken = new Dictionary<(PlaceKind, string), string>();
        var freed = new HashSet<(PlaceKind, string)>();
        foreach (var item in plan.Items)
        {
            if (item is { Action: PlanAction.Remove, Installed: { } gone })
                freed.UnionWith(gone.Placed.Select(placed => (placed.Kind, placed.Name)));
            if (!item.PutsOn) continue;
            var places = Places(item).ToList();
            if ((ObstacleOf(item, places.Where(place => !freed.Contains(place)), installed) ?? Twice(item, places, taken))
                is { } obstacle) obstacles.TryAdd(item.Id, obstacle);
            else foreach (var place in places) taken.TryAdd(place, item.Id);
        }

        return PlanPicking.Hindered(plan, obstacles);
    }

    /// <summary>What an item places outside the shelf.</summary>
    private static IEnumerable<(PlaceKind Kind, string Name)> Places(PlanItem item) => item.Restores is { } state
        ? state.Placed.Select(placed => (placed.Kind, placed.Name))
        : PlacementList.Places(item.Offer!.Card.Id, item.Offer.Card.PlacementOf(item.Release!))
            .Select(place => (place.Kind, place.Name));

    /// <summary>Two apps of one plan that place the same thing: the second one cannot be installed.</summary>
    private Problem? Twice(
        PlanItem item, IEnumerable<(PlaceKind Kind, string Name)> places, Dictionary<(PlaceKind, string), string> taken)
    {
        foreach (var place in places)
        {
            if (taken.TryGetValue(place, out var first))
                return new Problem(
                    ProblemCode.Refused, $"{layout.PathOf(place.Kind, place.Name)} is in the way of {item.Id}",
                    $"{first}, which comes before it, places the same file", $"leave out {first} or {item.Id}");
        }

        return null;
    }

    /// <summary>Looks at the machine for what a plan takes of it.</summary>
    /// <param name="plan">The plan, without items that something is in the way of.</param>
    /// <param name="circumstances">What others know about the plan.</param>
    public SurveyedPlan Survey(Plan plan, PlanCircumstances circumstances)
    {
        var there = CountBytesThere(plan);
        return new SurveyedPlan
        {
            Solved = new ForeignProgram(confinement, consent).AddNotes(plan), Scope = layout.Scope,
            Space =
            [
                .. SpaceOf(plan, there, size =>
                [
                    FetchedPart(size), (MachineLayout.NearestThatIsThere(layout.ShelfFolder), size.Kept, size.Assumed),
                ]),
            ],
            FetchedSize = SumFetched(plan, there), Places = [.. plan.Items.SelectMany(PlacesOf)],
            Starts =
            [
                .. plan.Items.SelectMany(StartsOf),
                .. placing.Caches.ProgramsFor(plan.Items.SelectMany(KindsOf)).Select(OfDesktop),
            ],
            RoomBack = plan.Items.Where(item => item.Action == PlanAction.Remove)
                .Sum(item => DiskRoom.Measure(layout.ShelfOf(item.Installed!.Id))),
            Rights = circumstances.Rights, Expired = circumstances.Expired, InBothScopes = circumstances.InBothScopes,
            FirstOnPath = circumstances.FirstOnPath,
        };
    }

    /// <summary>The same for downloading the files of a plan without installing them.</summary>
    /// <param name="plan">The plan.</param>
    public SurveyedPlan SurveyDownloads(Plan plan)
    {
        var there = CountBytesThere(plan);
        return SurveyedPlan.DoNothing(layout.Scope) with
        {
            Solved = plan,
            FetchesOnly = true,
            Space = [.. SpaceOf(plan, there, size => [FetchedPart(size)])],
            FetchedSize = SumFetched(plan, there),
        };
    }

    private Dictionary<Sha256Digest, long> CountBytesThere(Plan plan)
    {
        var there = new Dictionary<Sha256Digest, long>();
        foreach (var (digest, _) in plan.FilesToFetch) there.Add(digest, downloads.BytesThere(digest));
        return there;
    }

    private static long SumFetched(Plan plan, Dictionary<Sha256Digest, long> there) =>
        plan.Items.SelectMany(item => item.FilesToFetch).Sum(one => Math.Min(one.File.DownloadSize, there[one.Digest]));

    /// <summary>The kinds of what an item places and takes away; none where it leaves the app as it is.</summary>
    internal static IEnumerable<PlaceKind> KindsOf(PlanItem item)
    {
        if (!item.Changes || item.Action == PlanAction.Remember) return [];
        var before = item.Installed?.Placed.Select(placed => placed.Kind) ?? [];
        if (item.Restores is { } state) return before.Concat(state.Placed.Select(placed => placed.Kind));
        return item.Fetches ? before.Concat(PlacementList.KindsOf(item.Offer!.Card.PlacementOf(item.Release!))) : before;
    }

    private static PlannedStart OfDesktop(string program) => new(StartReason.DesktopList, null, program);

    private Problem? ObstacleOf(
        PlanItem item, IEnumerable<(PlaceKind Kind, string Name)> places, IReadOnlyCollection<InstalledApp> installed)
    {
        if (item.Restores is { } state) return InTheWay(item, state.Id, places, installed);
        if (new ForeignProgram(confinement, consent).Obstacle(item) is { } unsafeProgram) return unsafeProgram;
        if (NotMapped(item) is { } notMapped) return notMapped;
        if (NotExecutable(item) is { } notExecutable) return notExecutable;
        if (Shadowing(item) is { } shadowing) return shadowing;

        // What was installed before without being on record is its own where it is just as it will be, which is seen once it is
        // unpacked.
        var card = item.Offer!.Card;
        if (item.Installed is null && placing.Shelf.IsInFront(card.Id)) return null;
        return InTheWay(item, card.Id, places, installed);
    }

    private Problem? InTheWay(
        PlanItem item, AppId id, IEnumerable<(PlaceKind Kind, string Name)> places,
            IReadOnlyCollection<InstalledApp> installed) =>
        places.Select(place =>
                placing.Placer.InTheWay(id, place.Kind, place.Name, item.Installed, installed.Where(other => other.Id != id)))
            .FirstOrDefault(obstacle => obstacle is not null);

    private IEnumerable<PlannedPlace> PlacesOf(PlanItem item) => item.Restores is { } state
        ? state.Placed.Select(placed => new PlannedPlace(item.Id, placed.Kind, layout.PathOf(placed.Kind, placed.Name), null)
        {
            IsThere = IsPlaced(item, placed.Kind, placed.Name),
        })
        : !item.Fetches ? [] : PlacementList
        .Places(item.Offer!.Card.Id, item.Offer.Card.PlacementOf(item.Release!))
        .Select(place => new PlannedPlace(
            item.Id, place.Kind, layout.PathOf(place.Kind, place.Name), HiddenBy(item, place.Kind, place.Name))
        {
            IsThere = IsPlaced(item, place.Kind, place.Name),
            FoundAfter = place.Kind == PlaceKind.Command ? commands.FoundBefore(place.Name) : null,
        });

    private string? HiddenBy(PlanItem item, PlaceKind kind, string name) =>
        kind == PlaceKind.Command && !IsPlaced(item, kind, name) ? commands.HiddenBy(name) : null;

    private static bool IsPlaced(PlanItem item, PlaceKind kind, string name) =>
        item.Installed?.Placed.Any(placed => placed.Kind == kind && placed.Name == name) == true;

    /// <summary>A mapped start where name spaces are not to be had.</summary>
    private Problem? NotMapped(PlanItem item) =>
        item.Offer!.Card.PlacementOf(item.Release!).Mapped.Count == 0 || confinement.IsConfined ? null : new Problem(
            ProblemCode.SystemLacks,
            $"{item.Id} {item.To} is started with its folders laid over the system's, which cannot be done here",
            "bwrap is missing, or this machine does not allow name spaces", "install bubblewrap from the system's packages");

    /// <summary>Programs that could be placed and not be started.</summary>
    private Problem? NotExecutable(PlanItem item)
    {
        var folder = MachineLayout.NearestThatIsThere(layout.ShelfFolder);
        if (item.Offer!.Card.PlacementOf(item.Release!).Commands.Count == 0 || !Posix.IsNotExecutable(folder)) return null;
        return new Problem(
            ProblemCode.StateNeedsAttention, $"the commands of {item.Id} could not be started",
            $"the file system at {new MountPoints().FindFor(folder)} is mounted with noexec",
            "mount it without noexec, or use another folder with --root");
    }

    /// <summary>A command that would be found before another one, without the user having said that it may.</summary>
    private Problem? Shadowing(PlanItem item)
    {
        foreach (var (kind, name, _) in PlacementList.Places(item.Offer!.Card.Id, item.Offer.Card.PlacementOf(item.Release!)))
        {
            if (HiddenBy(item, kind, name) is not { } other || consent.Shadowing.Contains(name)) continue;
            return new Problem(
                ProblemCode.Refused, $"{item.Id} places the command {name}, which would hide {other}",
                "whoever types it would start another program than before",
                $"add --shadow {name}, and it is installed all the same");
        }

        return null;
    }

    private IEnumerable<PlannedStart> StartsOf(PlanItem item)
    {
        if (!item.Fetches) yield break;
        if (item.RunsInstaller)
            yield return new PlannedStart(
                StartReason.Installer, item.Id, item.Delivery!.Files[0].Location.Text, confinement.IsConfined);
        var placement = item.Offer!.Card.PlacementOf(item.Release!);
        if (placement.Check is { } check && new ForeignProgram(confinement, consent).MayRun)
            yield return new PlannedStart(StartReason.Check, item.Id, check.CommandLine, confinement.IsConfined);
        if (placement.Schemas.Count > 0)
            yield return new PlannedStart(StartReason.Schemas, item.Id, OwnFiles.SchemaCompiler);
        foreach (var entry in placement.Autostart)
            yield return new PlannedStart(
                StartReason.SignIn, item.Id,
                entry.Arguments.Length > 0 ? $"{entry.Command} {entry.Arguments}" : entry.Command.Text);
    }

    private (string Folder, long Certain, long Assumed) FetchedPart(PlanSize size) =>
        (MachineLayout.NearestThatIsThere(layout.DownloadsFolder), size.Fetched, 0);

    /// <summary>How much room the plan takes on each file system that it writes to.</summary>
    private static IEnumerable<SpaceNeed> SpaceOf(
        Plan plan, Dictionary<Sha256Digest, long> there,
        Func<PlanSize, (string Folder, long Certain, long Assumed)[]> partsOf)
    {
        if (!plan.Items.Any(item => item.Fetches)) return [];
        var parts = partsOf(PlanSize.Measure(plan, digest => there[digest]));
        var mounts = new MountPoints();
        return parts.GroupBy(part => Posix.DeviceOf(part.Folder)).Select(device => new SpaceNeed(
            mounts.FindFor(device.First().Folder),
            device.Sum(part => part.Certain + part.Assumed),
            new DriveInfo(device.First().Folder).AvailableFreeSpace,
            device.Sum(part => part.Certain)));
    }
}
