using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Planning;

/// <summary>Plans the removal of installed apps: which of them go, which must stay, and their order.</summary>
/// <param name="machine">The machine.</param>
internal sealed class UninstallPlanner(MachineState machine)
{
    /// <summary>Plans it. What is protected, or needed by others, stays and says so; the others go.</summary>
    /// <param name="named">The apps.</param>
    /// <param name="request">Further options.</param>
    public Plan Plan(IReadOnlyList<InstalledApp> named, UninstallRequest request)
    {
        var removed = named.ToDictionary(app => app.Id, app => new PlanItem
        {
            Id = app.Id.Text, Action = PlanAction.Remove, Installed = app,
        });
        if (request.AndNeededBy) AddNeededBy(removed);
        var refused = Refused(removed);
        var first = named.Select(app => app.Id).ToList();
        while (request.AndUnneeded && AddUnneeded(removed, refused))
        {
            // What an unneeded app needed may go with it.
            refused = Refused(removed);
        }

        foreach (var id in refused.Keys
            .Where(id => !first.Contains(id) && removed[id].Notes is [{ Code: PlanNote.NotNeededCode }]).ToList())
            removed.Remove(id);

        var order = first.Concat(removed.Keys.Where(id => !first.Contains(id))).ToList();
        return new Plan([.. DependantsFirst(order).Select(id =>
            refused.TryGetValue(id, out var obstacle) ? removed[id].Hindered(obstacle) : removed[id])]);
    }

    /// <summary>Adds the dependencies that no app needs without those that go; whether there were any.</summary>
    private bool AddUnneeded(Dictionary<AppId, PlanItem> removed, Dictionary<AppId, Problem> refused)
    {
        var count = removed.Count;
        foreach (var id in NotNeeded.Find(machine.Apps, app => removed.ContainsKey(app.Id) && !refused.ContainsKey(app.Id)))
            removed.TryAdd(id, new PlanItem
            {
                Id = id.Text, Action = PlanAction.Remove, Installed = machine.Find(id), Notes = [PlanNote.NoLongerNeeded()],
            });
        return removed.Count > count;
    }

    private void AddNeededBy(Dictionary<AppId, PlanItem> removed)
    {
        var open = new Queue<AppId>(removed.Keys);
        while (open.TryDequeue(out var id))
        {
            foreach (var app in machine.RelatedTo(id).Where(app => app.Needs.Any(need => need.Id == id)))
            {
                if (!removed.TryAdd(app.Id, new PlanItem
                {
                    Id = app.Id.Text, Action = PlanAction.Remove, Installed = app, Notes = [PlanNote.NeedsRemoved([id.Text])],
                })) continue;
                open.Enqueue(app.Id);
            }
        }
    }

    /// <summary>Which of the apps to remove must stay, and why: an app that stays keeps what it needs.</summary>
    private Dictionary<AppId, Problem> Refused(Dictionary<AppId, PlanItem> removed)
    {
        var refused = removed.Keys.Where(id => machine.IsProtected(machine.Find(id)!)).ToDictionary(id => id, Protection);
        while (true)
        {
            var more = removed.Keys.Where(id => !refused.ContainsKey(id))
                .Select(id => (id, By: machine.RelatedTo(id)
                    .Where(app => app.Needs.Any(need => need.Id == id)
                        && (!removed.ContainsKey(app.Id) || refused.ContainsKey(app.Id)))
                    .ToList()))
                .Where(one => one.By.Count > 0)
                .ToList();
            if (more.Count == 0) return refused;
            foreach (var (id, by) in more) refused[id] = IsNeeded(id, by);
        }

        Problem Protection(AppId id) => new(
            ProblemCode.Refused, $"{id} is protected and is not uninstalled",
            machine.Find(id)!.IsProtected ? $"{machine.Find(id)!.Catalogue} protects it" : "the setting protected names it",
            machine.Find(id)!.IsProtected ? "ask the catalogue's maintainer" : "take it out of the setting");

        static Problem IsNeeded(AppId id, List<InstalledApp> by) => new(
            ProblemCode.Refused, $"{id} is needed by other apps and is not uninstalled",
            string.Join("; ", by.Select(app => $"{app.Id} {app.Version} needs {app.Needs.First(need => need.Id == id)}")),
            "add --and-needed-by to uninstall these as well, or keep it");
    }

    /// <summary>The apps in their order, each before what it needs.</summary>
    private List<AppId> DependantsFirst(List<AppId> order)
    {
        var (ordered, begun) = (new List<AppId>(), new HashSet<AppId>());
        foreach (var id in order) Put(id);
        return ordered;

        void Put(AppId id)
        {
            if (!begun.Add(id)) return;
            foreach (var app in machine.RelatedTo(id).Where(app => order.Contains(app.Id)
                && app.Needs.Any(need => need.Id == id))) Put(app.Id);
            ordered.Add(id);
        }
    }
}
