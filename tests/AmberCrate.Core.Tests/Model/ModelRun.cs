using AmberCrate.Core.Bundles;
using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Model;

/// <summary>
/// A sequence of commands on a made-up machine and made-up catalogues. After each command it is checked what must hold.
/// </summary>
internal sealed class ModelRun(int[] codes)
{
    private readonly ModelWorld _world = new(codes);
    private readonly ModelMachine _machine = new();
    private readonly List<string> _said = [];
    private bool _mayBeBroken;

    /// <summary>Carries one command out.</summary>
    public void Step((int Kind, int A, int B, int C) step)
    {
        var (kind, a, b, c) = step;
        switch (kind)
        {
            case 0 or 1 or 2 or 3:
                Install(a, b, c);
                break;
            case 4 or 5:
                Upgrade(c % 3 == 0 ? [Id(a)] : [], isSecurityOnly: b % 4 == 0, c);
                break;
            case 6:
                Uninstall(a, b, c);
                break;
            case 7:
                Equip(a, b, c);
                break;
            case 8 or 9:
                Undo(c);
                break;
            case 10:
                Retry(c);
                break;
            case 11:
                Pin(a, b);
                break;
            case 12:
                Pause(a);
                break;
            case 13:
                ExportAndEquip();
                break;
            default:
                Say(_world.Change((a * 31) + b, c));
                break;
        }

        CheckDue();
        CheckRelations();
    }

    /// <summary>Five upgrades in a row: only the first one changes anything.</summary>
    public void Settles()
    {
        // Where a failure has left an app without what it needs, the first night mends that.
        if (_mayBeBroken) CarryOut(Planner().Upgrade([]), 0);
        for (var night = 0; night < 5; night++)
        {
            var plan = Planner().Upgrade([]);
            if (night > 0) RequireSettled(plan, night, $"night {night + 1} changes {Shown(plan)}");
            Say($"upgrade, night {night + 1}: {Shown(plan)}");
            if (plan.Changes) CarryOut(plan, 0);
        }
    }

    /// <summary>What has happened, for the message of a test that fails.</summary>
    public string Words() => $"{string.Join('\n', _said)}\n--- apps\n{_machine.Listed}\n--- pins\n"
        + $"{string.Join('\n', _machine.Pins.Select(pin => $"{pin.App}@{pin.Selector}"))}\n--- offered\n{_world.Words()}";

    private Planner Planner() => new(_machine.State, _world);

    private static string Id(int code) => ModelWorld.Ids[code % ModelWorld.Ids.Length];

    private static string Shown(Plan plan) => string.Join(", ", plan.Items.Select(item =>
        $"{item.Id} {ActionWords.Actions.WordOf(item.Action)} {item.From}->{item.To}"
            + (item.Note.IsEmpty ? "" : $" ({item.Note})")));

    private void Say(string words) => _said.Add(words);

    private Plan? Planned(string command, Func<Plan> plan)
    {
        try
        {
            var made = plan();
            Say($"{command}: {Shown(made)}");
            return made;
        }
        catch (ProblemException refused) when (refused.Problem.Code is ProblemCode.Refused or ProblemCode.NothingMatched
            or ProblemCode.NotVerified or ProblemCode.Ambiguous)
        {
            var problem = refused.Problem;
            Say($"{command}: refused, {problem.What} ({problem.Why}) {string.Join("; ", problem.Details)}");
            return null;
        }
    }

    /// <summary>Carries a plan out; whether all of it went well.</summary>
    private bool CarryOut(Plan plan, int code)
    {
        foreach (var item in plan.Items.Where(item => item.PutsOn))
            RequireNotWithdrawn(item);
        var fails = code % 7 == 6 ? plan.Items.Where(item => item.Changes).Skip(code / 7 % 3).FirstOrDefault()?.Id : null;
        var isWhole = _machine.CarryOut(plan, item => item.Id == fails);
        if (!isWhole)
        {
            Say($"  {fails} fails");
            _mayBeBroken = true;
        }

        return isWhole;
    }

    private void RequireNotWithdrawn(PlanItem item)
    {
        var from = item.Restores?.Catalogue ?? item.Offer!.Catalogue;
        var offered = _world.Find(AppId.Parse(item.Id)).FirstOrDefault(offer => offer.Catalogue == from)
            ?.Card.Releases.FirstOrDefault(release => release.Version == item.To);
        if (item.Action != PlanAction.Repair)
            offered?.Withdrawn.ShouldBeNull($"{item.Id} {item.To} is withdrawn and comes in");
    }

    private void RequireNothingOlder(Plan plan, Func<PlanItem, bool> isAsked)
    {
        foreach (var item in plan.Items.Where(item => item.Action == PlanAction.Downgrade))
            isAsked(item).ShouldBeTrue($"{item.Id} becomes older, {item.From} to {item.To}");
    }

    private void Install(int a, int b, int c)
    {
        List<AppReference> references = [Reference(a, b)];
        if (c % 3 == 0) references.Add(Reference(a + 1, b / 3));
        var before = _machine.State;
        if (Planned($"install {string.Join(' ', references)}", () => Planner().Install(references)) is not { } plan) return;
        RequireNothingOlder(plan, item => item.IsMadeOlder || references.Exists(reference => reference.Name == item.Id
            && reference.Selector?.Accepts(item.Installed!.Version, item.Installed.Line) == false));
        if (!CarryOut(plan, c)) return;
        foreach (var reference in references)
        {
            var app = _machine.State.Find(AppId.Parse(reference.Name)).ShouldNotBeNull();
            app.Follows.ShouldBe(reference.Selector ?? before.Find(app.Id)?.Follows);
            if (reference.Selector is { } selector) selector.Accepts(app.Version, app.Line).ShouldBeTrue();
            app.IsDependency.ShouldBeFalse();
        }

        Planner().Install(references).Changes.ShouldBeFalse("the same install again changes something");
    }

    private static AppReference Reference(int a, int b) => AppReference.Parse(
        $"{(b % 5 == 0 ? "house:" : "")}{Id(a)}"
            + (ModelWorld.Selectors[b % ModelWorld.Selectors.Length] is { } selector ? $"@{selector}" : ""));

    private void Upgrade(string[] names, bool isSecurityOnly, int c)
    {
        if (Planned($"upgrade {string.Join(' ', names)}{(isSecurityOnly ? " --security-only" : "")}",
            () => Planner().Upgrade(names, isSecurityOnly)) is not { } plan) return;
        RequireNothingOlder(plan, _ => false);
        if (CarryOut(plan, c))
            RequireSettled(Planner().Upgrade(names, isSecurityOnly), 1, "the same upgrade again changes something");
    }

    /// <summary>
    /// A second upgrade changes nothing. Only a dependency that has just come in can be of another release the next time, with
    /// what it needs.
    /// </summary>
    private static void RequireSettled(Plan plan, int night, string message) =>
        plan.Items.Where(item => item.Changes && (night > 1 || !item.IsDependency)).ShouldBeEmpty(message);

    private void Uninstall(int a, int b, int c)
    {
        var request = new UninstallRequest { AndNeededBy = b % 2 == 0, AndUnneeded = b % 3 == 0 };
        if (Planned($"uninstall {Id(a)} {request}", () => Planner().Uninstall([Id(a)], request)) is { } plan) CarryOut(plan, c);
    }

    private void Equip(int a, int b, int c)
    {
        var apps = Enumerable.Range(0, 1 + (a % 3)).Select(at => Entry(a + at, b + (at * 5), c + at))
            .DistinctBy(app => app.Reference.Name).ToList();
        var bundle = new Bundle { Apps = apps };
        var uninstalls = c % 5 == 0;
        var named = apps.Select(app => $"{app.Reference} {app.Version}{(app.Sha256 is null ? "" : " sealed")}");
        if (Planned(
            $"equip {string.Join(' ', named)}{(uninstalls ? " --uninstall-others" : "")}",
            () => Planner().Equip(bundle, uninstalls)) is not { } plan) return;
        RequireNothingOlder(plan, item => apps.Exists(app => app.Reference.Name == item.Id && (app.Version is not null
            || app.Reference.Selector?.Accepts(item.Installed!.Version, item.Installed.Line) == false)));
        if (!CarryOut(plan, c)) return;
        foreach (var (app, item) in apps.Select(app => (app, plan.Items.FirstOrDefault(item => item.Id == app.Reference.Name))))
        {
            if (item is null || item.Action == PlanAction.Cannot || item.Notes.Any(note => note.Problem is not null)) continue;
            var there = _machine.State.Find(AppId.Parse(item.Id)).ShouldNotBeNull();
            if (app.Version is { } version) there.Version.ShouldBe(version);
            else app.Reference.Selector?.Accepts(there.Version, there.Line).ShouldBeTrue($"{there.Id} {there.Version}");
        }

        // What cannot be had because of an app that is uninstalled, the next run can have.
        if (uninstalls && plan.Items.Any(item => item.Action == PlanAction.Cannot)
            && !CarryOut(Planner().Equip(bundle, uninstalls), 0)) return;
        var again = Planner().Equip(bundle, uninstalls);
        again.Changes.ShouldBeFalse($"the same equip again changes something: {Shown(again)}");
    }

    private BundleApp Entry(int a, int b, int c)
    {
        var reference = Reference(a, b);
        var offered = _world.Find(AppId.Parse(reference.Name)).SelectMany(offer => offer.Card.Releases).ToList();
        if (c % 4 > 1 || offered.Count == 0) return new BundleApp(reference, null);
        var release = offered[c % offered.Count];
        var sealing = c % 4 == 0 ? release.Artifacts[0].Sha256 : null;
        return new BundleApp(reference with { Selector = null }, release.Version) { Sha256 = sealing };
    }

    private void Undo(int c)
    {
        if (_machine.Runs.Count == 0) return;
        var at = _machine.Runs.FindLastIndex(run => run.Items.Exists(item => item.HasChanged));
        if (at < 0) return;
        var (items, begun) = _machine.Runs[at];
        var listed = string.Join('\n', _machine.State.Apps.Select(Stands));
        var before = RunHistory.Before(_machine.State.Apps, _machine.Runs.Skip(at).Reverse().Select(run => run.Items));
        var undo = new RunUndo(_machine.State, _world, _machine.IsOnShelf);
        if (Planned($"undo {at + 1}", () => undo.Plan(at + 1, items, begun)) is not { } plan) return;
        if (!CarryOut(plan, c)) return;
        var left = plan.Items.Where(item => item.Action == PlanAction.Cannot).Select(item => item.Id).ToHashSet();
        string.Join('\n', _machine.State.Apps.Where(app => !left.Contains(app.Id.Text)).Select(Stands))
            .ShouldBe(
                string.Join('\n', before.Where(app => !left.Contains(app.Id.Text)).Select(Stands)),
                "undo does not bring it back");
        if (left.Count > 0 || !plan.Changes) return;
        var (undone, when) = _machine.Runs[^1];
        undo = new RunUndo(_machine.State, _world, _machine.IsOnShelf);
        if (Planned("undo of the undo", () => undo.Plan(_machine.Runs.Count, undone, when)) is not { } again
            || again.Items.Any(item => item.Action == PlanAction.Cannot) || !CarryOut(again, 0)) return;
        string.Join('\n', _machine.State.Apps.Select(Stands)).ShouldBe(listed, "undo of undo does not bring it back");
    }

    private static string Stands(InstalledApp app) =>
        $"{app.Catalogue}:{app.Id} {app.Version} {app.Sha256.Hex[..6]} @{app.Follows} {app.IsDependency}";

    private void Retry(int c)
    {
        for (var at = _machine.Runs.Count - 1; at >= 0; at--)
        {
            var (items, _) = _machine.Runs[at];
            var later = _machine.Runs.Skip(at + 1).SelectMany(run => run.Items).ToLookup(item => item.Reference.Name);
            var left = RunLeft.Find(items, _machine.State, app => later[app]);
            if (left.Count == 0) continue;
            foreach (var item in left)
                Stood(_machine.State.Find(AppId.Parse(item.Reference.Name))).ShouldBe(Stood(item.Before), "it was decided anew");
            if (Planned($"retry {at + 1}", () => new RunRetry(_machine.State, _world).Plan(left)) is not { } plan) return;
            RequireNothingOlder(plan, item => left.Any(one => one.Reference.Name == item.Id && one.Action is PlanAction.Downgrade
                or PlanAction.Install));
            CarryOut(plan, c);
            return;
        }

        static string Stood(InstalledApp? app) => app is null ? "not there" : Stands(app);
    }

    private void Pin(int a, int b)
    {
        var id = AppId.Parse(Id(a));
        var had = _machine.Pins.RemoveAll(pin => pin.App == id) > 0;
        if (had && b % 2 == 0)
        {
            Say($"pin {id} --lift");
            return;
        }

        var selector = ModelWorld.Selectors[b % ModelWorld.Selectors.Length] ?? "1.x";
        _machine.Pins.Add(new Pin(id, VersionSelector.Parse(selector)) { Since = _machine.Tick() });
        Say($"pin {id}@{selector}");
    }

    private void Pause(int a)
    {
        var name = ModelWorld.Names[a % ModelWorld.Names.Length];
        Say(_world.Off.Remove(name) ? $"catalogue resume {name}" : _world.Off.Add(name) ? $"catalogue pause {name}" : "");
    }

    /// <summary>A machine that is rebuilt from what this one exports has the same apps.</summary>
    private void ExportAndEquip()
    {
        var apps = _machine.State.Apps;
        var areOffered = apps.All(app => _world.Find(app.Id).Any(offer => offer.Catalogue == app.Catalogue
            && offer.Card.Releases.Any(release => release.Version == app.Version && release.Withdrawn is null
                && release.Artifacts[0].Sha256 == app.Sha256)));
        if (!areOffered || _mayBeBroken || Faults().Any() || apps.Any(app => !_machine.State.Pins.Accepts(
            app.Id, app.Version, app.Line))) return;
        var capture = new BundleCapture("booth", new DateOnly(2026, 10, 1));
        var bundle = BundleCapturing.Capture(
            apps, [.. _world.Catalogues.Select(name => new BundleCatalogue(name, $"/{name}"))], capture, BundleVersions.Exact);
        var other = new ModelMachine();
        var plan = new Planner(other.State, _world).Equip(bundle);
        Say($"export and equip: {Shown(plan)}");
        other.CarryOut(plan, _ => false);
        string.Join('\n', other.State.Apps.Where(app => !app.IsDependency).Select(Stands))
            .ShouldBe(string.Join('\n', apps.Where(app => !app.IsDependency).Select(Stands)), "export and equip");
    }

    /// <summary>What <c>due</c> says is what an upgrade does.</summary>
    private void CheckDue()
    {
        var state = _machine.State;
        var due = HeldUpgrades.MarkAll(state, _world);
        var plan = Planner().Upgrade([]);
        var items = plan.Items.ToDictionary(item => item.Id, StringComparer.Ordinal);
        foreach (var entry in due)
        {
            var item = items.GetValueOrDefault(entry.App.Id.Text);
            if (entry.State == DueState.Due)
                item.ShouldNotBeNull().Action.ShouldBe(PlanAction.Upgrade, $"{entry.App.Id} is due: {Shown(plan)}");
            if (entry.State == DueState.HeldBack)
            {
                item.ShouldNotBeNull().Action.ShouldBe(PlanAction.Keep, $"{entry.App.Id} is held back: {Shown(plan)}");
                item.Note.ToString().ShouldContain(entry.HeldWhy);
                entry.HeldWords.ShouldNotBe("held back: it does not fit with other apps", $"{entry.App.Id}: {Shown(plan)}");
            }

            if (entry.State is not (DueState.Due or DueState.HeldBack) && item is { Action: PlanAction.Upgrade })
                (item.NeededBy.Count > 0 || item.Notes.Any(note => note.Code == "makes-room"))
                    .ShouldBeTrue($"{entry.App.Id} is {entry.State}, and is upgraded: {Shown(plan)}");
        }
    }

    private IEnumerable<string> Faults()
    {
        var state = _machine.State;
        foreach (var app in state.Apps)
        {
            foreach (var need in app.Needs.Where(
                need => !(state.Find(need.Id) is { } there && need.Accepts(there.Version, there.Line))))
                yield return $"{app.Id} {app.Version} needs {need}";
            foreach (var other in app.Conflicts.Where(
                other => state.Find(other.Id) is { } there && other.Accepts(there.Version, there.Line)))
                yield return $"{app.Id} {app.Version} cannot be there beside {other}";
        }
    }

    /// <summary>Apps have what they need, unless a change of one of them failed.</summary>
    private void CheckRelations()
    {
        var faults = Faults().ToList();
        if (faults.Count == 0) _mayBeBroken = false;
        else if (!_mayBeBroken) faults.ShouldBeEmpty();
    }
}
