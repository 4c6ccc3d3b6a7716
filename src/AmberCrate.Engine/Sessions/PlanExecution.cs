using AmberCrate.Core.Catalogues;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Placements;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Rights;
using AmberCrate.Engine.Runs;

namespace AmberCrate.Engine.Sessions;

/// <summary>The way of every operation that changes apps: survey the plan, show it, ask once, act, report.</summary>
/// <param name="session">The session.</param>
/// <param name="station">What it works on.</param>
/// <param name="options">What was requested in addition to the apps.</param>
internal sealed class PlanExecution(Session session, OpenRoot station, RunOptions options)
{
    /// <summary>Surveys a plan, shows it, asks, and carries it out if the user agrees.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="signals">Stops the run.</param>
    /// <param name="obstacles">What becomes of the others where something is in the way of one item.</param>
    /// <exception cref="ProblemException">It is refused, before anything is fetched.</exception>
    /// <exception cref="ElevatedRunEndedException">Another process with more rights has carried it out.</exception>
    public async Task<RunResult> ExecuteAsync(
        Plan plan, RunSignals signals, ObstacleRule obstacles = ObstacleRule.OthersGoOn)
    {
        plan = WithoutSkipped(plan);
        RequirePicking();
        List<string> left = [];
        if (options.IsPicking && options.AsShown is null)
        {
            if (session.Confirm.Pick(plan, signals.Soon) is not { } picked) return NotRun(RunEnd.CalledOff, Survey(plan));
            left = [.. plan.Items.Except(picked.Items).Select(item => item.Id)];
            plan = picked;
        }

        var surveyed = Survey(plan);
        RequireFreeWay(surveyed, obstacles);
        var digest = PlanDigest.Compute(surveyed);
        RequireAsShown(digest);
        if (options.IsDryRun) return NotRun(RunEnd.PlanOnly, surveyed);
        if (surveyed.Rights.State == RightsState.Missing) throw FolderRights.Missing(station.Layout)!.ToException();
        if (options.AsShown is null) session.Watch(new OperationEvent.Planned(surveyed, digest));
        if (surveyed.Obstacle is { } obstacle) throw obstacle.ToException();
        if (Confirm(surveyed, signals.Soon) is not { } confirmed) return NotRun(RunEnd.CalledOff, surveyed);
        if (surveyed.Rights.State == RightsState.Raised) Raise(digest, left);
        return await RunAsync(confirmed, digest, signals);
    }

    /// <summary>Fetches what a plan needs, and changes nothing else.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="cancel">Stops; what has arrived stays for another time.</param>
    public async Task<RunResult> PrefetchAsync(Plan plan, CancellationToken cancel)
    {
        var surveyed = station.Survey(options.Consent).SurveyDownloads(plan with
        {
            Items = [.. plan.Items.Where(item => item.Fetches || item.Action == PlanAction.Cannot)],
        });
        if (surveyed.Obstacle is { } obstacle) throw obstacle.ToException();
        if (options.IsDryRun) return NotRun(RunEnd.PlanOnly, surveyed);
        var digest = PlanDigest.Compute(surveyed);
        session.Watch(new OperationEvent.Planned(surveyed, digest));
        session.Watch(new OperationEvent.RunBegins(TakesTerminal: false));
        var report = await station.Runner().PrefetchAsync(
            surveyed, happened => session.Watch(new OperationEvent.Happened(happened)), cancel);
        return new RunResult(RunEnd.Ran, surveyed, digest) { Report = report };
    }

    private static RunResult NotRun(RunEnd end, SurveyedPlan plan) => new(end, plan, PlanDigest.Compute(plan));

    private async Task<RunResult> RunAsync(ConfirmedPlan confirmed, Sha256Digest digest, RunSignals signals)
    {
        using var stopping = signals.Soon.Register(
            () =>
                session.Note("stopping after the current app; interrupt again to stop at once and put that app back as it was"));
        session.Watch(new OperationEvent.RunBegins(confirmed.Plan.Items.Any(item => item.IsAttended)));
        var report = await station.Runner().RunAsync(
            confirmed, session.Request.CommandLine, happened => session.Watch(new OperationEvent.Happened(happened)), signals,
            options.Consent, session.Host.Person);
        return new RunResult(RunEnd.Ran, confirmed.Plan, digest) { Report = report, Hint = HintOf(report) };
    }

    /// <summary>Asks what has to be asked; null if the user calls it off.</summary>
    /// <exception cref="ProblemException">There is no user to ask.</exception>
    private ConfirmedPlan? Confirm(SurveyedPlan plan, CancellationToken cancel) =>
        !plan.Changes || options.AsShown is not null
        || (MayGoAhead(plan, cancel) && MayMakeOlder(plan, cancel) && MayTakeChangedCards(plan, cancel))
            ? new ConfirmedPlan(plan) : null;

    /// <summary>
    /// Marks the apps that are installed without a signature. A folder of cards that the user added is their own and counts as
    /// trusted. A folder that a bundle adds, and cards in a kit that cannot be checked, do not.
    /// </summary>
    private Plan WithUnsigned(Plan plan)
    {
        var unsigned = station.Records.Catalogues().Where(one => one.Trust == CatalogueTrust.NotSigned).Select(one => one.Name)
            .Concat(plan.AddedCatalogues.Where(one => one.Trust.Root is null).Select(one => one.Name))
            .Concat(plan.UncheckedInKit).ToHashSet();
        return unsigned.Count == 0 ? plan : plan with
        {
            Items =
            [
                .. plan.Items.Select(item => item is { Fetches: true, PutsBack: null } && unsigned.Contains(item.Offer!.Catalogue)
                    ? item with { IsUnsigned = true, Notes = [.. item.Notes, PlanNote.NotSignedBy(item.Offer.Catalogue)] }
                    : item),
            ],
        };
    }

    /// <summary>The catalogues of what a plan installs whose signatures have expired, those that it adds included.</summary>
    private List<ExpiredCatalogue> Expired(Plan plan) =>
    [
        .. from name in plan.Items.Where(item => item.Fetches).Select(item => item.Offer?.Catalogue).OfType<CatalogueName>()
               .Distinct()
           let root = station.Records.Catalogues().FirstOrDefault(one => one.Name == name)?.Trust.Root
               ?? plan.AddedCatalogues.FirstOrDefault(one => one.Name == name)?.Trust.Root
           where root is not null
           let first = station.Trust.RolesOf(root).Where(role => !role.IsDelegated).MinBy(role => role.Expires)
           where first is not null && first.Expires <= session.Now
           select new ExpiredCatalogue(name, first.Expires),
    ];

    /// <summary>The plan with all that it takes of the machine, and without what something is in the way of.</summary>
    private SurveyedPlan Survey(Plan plan)
    {
        new RootOpener(session).NoteOther(station);
        var survey = station.Survey(options.Consent);
        plan = WithUnsigned(plan).WithCardChanges(station.Apps.Read());
        plan = new SystemPackageOverlap(session).AddNotes(WithoutForeignSelf(plan));
        plan = survey.Hindered(new SystemSurvey(station.Placing.System).LeaveOutLacking(plan), station.Records.Apps());
        List<InstalledApp> twice =
            [.. plan.Items.Where(item => item.Fetches).Select(item => station.Other.Find(item.App!)).OfType<InstalledApp>()];
        return survey.Survey(plan, new PlanCircumstances(
            RightsFor(plan), Expired(plan), twice,
            twice.Count > 0 ? station.Other.FirstOnPath(station.Layout, session.Host.SearchPath) : null));
    }

    /// <summary>This program does everything else: it comes from a signed catalogue, or not at all.</summary>
    private Plan WithoutForeignSelf(Plan plan)
    {
        var self = plan.Items.FirstOrDefault(item => item is { PutsOn: true, Offer: not null } && item.Id == CommandNameRule.Own);
        if (self is null) return plan;
        var trusts = station.Records.Catalogues().Select(one => (one.Name, one.Trust))
            .Concat(plan.AddedCatalogues.Select(one => (one.Name, one.Trust)));
        if (self.PutsBack is not null) return plan;
        return trusts.First(one => one.Name == self.Offer!.Catalogue).Trust.Root is not null ? plan
            : PlanPicking.Hindered(plan, new Dictionary<string, Problem>(StringComparer.Ordinal)
            {
                [self.Id] = new Problem(
                    ProblemCode.Refused, $"{self.Id} is taken from signed catalogues only",
                    $"the catalogue {self.Offer!.Catalogue} is not signed, and this program does everything else"),
            });
    }

    private static void RequireFreeWay(SurveyedPlan plan, ObstacleRule rule)
    {
        var obstacles = plan.Items.Select(item => item.Obstacle).OfType<Problem>().ToList();
        var areOfSystem = obstacles.TrueForAll(obstacle => obstacle.Code == ProblemCode.SystemLacks);
        if (obstacles.Count == 0 || (plan.ChangesApps && (areOfSystem || rule == ObstacleRule.OthersGoOn))) return;
        if (obstacles.Count == 1)
            throw (obstacles[0] with { Why = WithoutChange(obstacles[0].Why) }).ToException();
        throw new Problem(
            areOfSystem ? ProblemCode.SystemLacks : ProblemCode.Refused, $"{obstacles.Count} of the apps cannot be installed",
            "nothing has been changed",
            areOfSystem && plan.Solved.InstallLine is { } line ? line : "solve these problems, or leave the apps out with --skip")
        {
            Details = [.. obstacles.Select(
                obstacle => obstacle.Why.Length > 0 ? Advice.Combine($"{obstacle.What}: {obstacle.Why}") : obstacle.What)],
        }.ToException();

        static string WithoutChange(string why) =>
            why.Length > 0 ? $"{why}; nothing has been changed" : "nothing has been downloaded or changed";
    }

    /// <summary>The plan without what the user leaves out, and what cannot be there without it.</summary>
    private Plan WithoutSkipped(Plan plan)
    {
        if (options.Skipped.Count == 0) return plan;
        var installed = station.Records.Ids();
        if (options.Skipped.FirstOrDefault(
            id => !installed.Contains(id) && !options.LeftOut.Contains(id)
                && plan.Items.All(item => item.Id != id)) is not { } unknown)
            return PlanPicking.Without(plan, PlanPicking.Following(plan, options.Skipped));
        throw new Problem(
            ProblemCode.NothingMatched, $"--skip names {unknown}, which the plan does not have", "nothing has been changed",
            "name an app of the plan by its id; --dry-run shows them").ToException();
    }

    private void RequirePicking()
    {
        if (!options.IsPicking || options.AsShown is not null || session.Confirm.CanAsk) return;
        throw new Problem(
            ProblemCode.BadCommandLine, "cannot offer a choice: there is no terminal", "nothing has been changed",
            "name what you want, or leave out --pick").ToException();
    }

    private void RequireAsShown(Sha256Digest digest)
    {
        if (options.AsShown is not { } shown || shown == digest) return;
        throw new Problem(
            ProblemCode.Refused, "the plan has changed since it was shown",
            $"it was sha256:{shown}, and is now sha256:{digest}; nothing has been changed",
            "run the command again without --as-shown to see the new plan").ToException();
    }

    private bool MayGoAhead(SurveyedPlan plan, CancellationToken cancel)
    {
        if (options.IsAgreed) return true;
        return session.Confirm.CanAsk ? session.Confirm.MayGoAhead(plan, cancel) : throw RootOpener.CannotAsk().ToException();
    }

    /// <summary>
    /// Asks again if apps become older although the user did not ask for that. Agreeing beforehand is not enough.
    /// </summary>
    /// <exception cref="ProblemException">There is no user to ask.</exception>
    private bool MayMakeOlder(SurveyedPlan plan, CancellationToken cancel)
    {
        List<PlanItem> older = [.. plan.Items.Where(item => item.IsMadeOlder)];
        if (older.Count == 0 || options.AllowsOlder) return true;
        if (!options.IsAgreed && session.Confirm.CanAsk) return session.Confirm.MayMakeOlder(older, cancel);
        throw new Problem(
            ProblemCode.Refused, $"{string.Join(", ", older.Select(item => item.Id))} would become older",
            "there is no other plan, and nothing has been changed",
            "add --even-older to go ahead with it").ToException();
    }

    /// <summary>
    /// Asks again if a card states something differently since its app was installed, such as another licence. The plan shows
    /// it too, so that agreeing beforehand is enough.
    /// </summary>
    private bool MayTakeChangedCards(SurveyedPlan plan, CancellationToken cancel)
    {
        List<PlanItem> changed = [.. plan.Items.Where(item => item.CardChanges.Count > 0)];
        return changed.Count == 0 || options.IsAgreed || session.Confirm.MayTakeChangedCards(changed, cancel);
    }

    private RightsNeed RightsFor(Plan plan)
    {
        if (!plan.Changes) return RightsNeed.Own;
        if (session.Raising is { } raising) return raising.By is { } way
            ? new RightsNeed(RightsState.Raised, way)
            : new RightsNeed(RightsState.Missing, raising.Lack);
        return FolderRights.Missing(station.Layout) is { } missing
            ? new RightsNeed(RightsState.Missing, missing.What)
            : RightsNeed.Own;
    }

    private void Raise(Sha256Digest digest, List<string> left) =>
        session.Raising!.Run(["--yes", "--as-shown", $"sha256:{digest}", .. left.SelectMany(id => new[] { "--skip", id })]);

    /// <summary>How to start what was installed where the shell does not find it.</summary>
    private PathHint? HintOf(RunReport report)
    {
        var layout = station.Layout;
        // Whoever has apps already knows: it is said with the first ones only.
        var own = report.Items.Select(item => item.Item.Id).ToHashSet(StringComparer.Ordinal);
        if (!own.IsSupersetOf(station.Records.Ids())) return null;
        if (report.Number is null || session.Host.SearchPath.Split(':').Any(folder => folder.TrimEnd('/') == layout.BinFolder))
            return null;
        var command = report.Items.Where(item => item.Outcome.IsDone() && item.Item.Fetches)
            .SelectMany(item => item.Item.Offer!.Card.PlacementOf(item.Item.Release!).Commands).Select(
                command => command.Name.Text).FirstOrDefault();
        return command is null ? null : new PathHint(layout.BinFolder, command, layout.PathOf(PlaceKind.Command, command));
    }
}
