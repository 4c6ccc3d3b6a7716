using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Planning;

/// <summary>Finds the dependencies that no chosen app needs any more.</summary>
public static class NotNeeded
{
    /// <summary>Their ids.</summary>
    /// <param name="machine">The machine.</param>
    public static IReadOnlySet<AppId> Find(MachineState machine) => Find(machine.Apps, _ => false);

    /// <summary>Their ids, once a plan is carried out.</summary>
    /// <param name="machine">The machine.</param>
    /// <param name="plan">The plan.</param>
    public static IReadOnlySet<AppId> After(MachineState machine, Plan plan)
    {
        var removed = plan.Items.Where(item => item.Action == PlanAction.Remove).Select(item => item.App).ToHashSet();
        return Find(AfterPlan.Apps(machine, plan), app => removed.Contains(app.Id));
    }

    /// <summary>Their ids, once some apps are gone.</summary>
    /// <param name="apps">The installed apps.</param>
    /// <param name="isGone">Says whether an app will be gone.</param>
    public static IReadOnlySet<AppId> Find(IReadOnlyCollection<InstalledApp> apps, Func<InstalledApp, bool> isGone)
    {
        var left = apps.Where(app => !isGone(app)).ToDictionary(app => app.Id);
        var needed = new HashSet<AppId>();
        var open = new Stack<InstalledApp>(left.Values.Where(app => !app.IsDependency));
        while (open.TryPop(out var app))
        {
            foreach (var need in app.Needs)
            {
                if (left.TryGetValue(need.Id, out var there) && there.IsDependency && needed.Add(need.Id)) open.Push(there);
            }
        }

        return left.Values.Where(app => app.IsDependency && !needed.Contains(app.Id)).Select(app => app.Id).ToHashSet();
    }
}
