using AmberCrate.Core.Bundles;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Runs;

/// <summary>Plans again what an earlier run has left.</summary>
/// <param name="machine">The machine as it is now.</param>
/// <param name="offers">What the catalogues offer.</param>
public sealed class RunRetry(MachineState machine, IOffers offers)
{
    /// <summary>Plans the rest of a run.</summary>
    /// <param name="left">What <see cref="RunLeft"/> has found.</param>
    /// <exception cref="ProblemException">Something to be installed is not offered any more, or there is no plan.</exception>
    public Plan Plan(IReadOnlyList<RecordedItem> left)
    {
        var installed = left.Where(IsAskedForAnew).ToList();
        var (upgraded, removed) = (StillThere(left, PlanAction.Upgrade, PlanAction.Replace), StillThere(left, PlanAction.Remove));
        var planner = new Planner(machine.With(PlatformsOf(left)), offers);
        List<Plan> parts = [Installing(installed, upgraded, planner)];
        if (removed.Count > 0) parts.Add(planner.Uninstall(removed));
        parts.Add(planner.Repair(left.Where(item => item.Action == PlanAction.Repair).Select(Find).OfType<InstalledApp>()
            .Select(app => (app, Damage: machine.Damage(app))).Where(one => one.Damage is not null)
            .Select(one => (one.app, one.Damage!))));
        var said = left.ToLookup(item => item.Reference.Name, StringComparer.Ordinal);
        return new Plan([.. parts.SelectMany(part => part.Items)
            .DistinctBy(item => item.Id)
            .Select(item => Saying(item, said[item.Id].FirstOrDefault()))]);
    }

    /// <summary>The platforms that were requested, of apps that are not there yet.</summary>
    private Dictionary<AppId, Platform> PlatformsOf(IReadOnlyList<RecordedItem> left) =>
        left.Where(item => item.Platform is not null && item.Reference.Id is not null && Find(item) is null)
            .ToDictionary(item => item.Reference.Id!, item => item.Platform!);

    /// <summary>
    /// Plans what is to be installed, in the versions that the run was about where these are still offered: a bundle may have
    /// named them for a reason.
    /// </summary>
    /// <param name="items">What is to be installed.</param>
    /// <param name="upgraded">The ids of the apps to upgrade, planned with the others so that all fit together.</param>
    /// <param name="planner">The planner.</param>
    /// <exception cref="ProblemException">Something is not offered any more, or there is no plan.</exception>
    private Plan Installing(List<RecordedItem> items, List<string> upgraded, Planner planner)
    {
        var bundle = new Bundle
        {
            Apps = [.. items.Select(item => new BundleApp(item.Reference, IsOffered(item) ? item.To : null))],
        };
        var plan = planner.Equip(bundle, [.. upgraded.Select(id => machine.Find(AppId.Parse(id))!)]);
        return upgraded.Count == 0 && plan.Items.Any(item => item.Action == PlanAction.Cannot)
            ? planner.Install(items.Select(item => item.Reference), mayMakeOlder: false)
            : plan with { Pins = [] };
    }

    private bool IsOffered(RecordedItem item) => item.To is not null && item.Reference.Id is { } id
        && offers.Find(id).Any(offer => offer.Card.Releases.Any(release => release.Version == item.To));

    private List<string> StillThere(IReadOnlyList<RecordedItem> left, params PlanAction[] actions) =>
        [.. left.Where(item => actions.Contains(item.Action) && !IsAskedForAnew(item) && Find(item) is not null)
            .Select(item => item.Reference.Name)];

    /// <summary>
    /// Whether the rest was requested with an install: also of an app that is there, and follows something else by now.
    /// </summary>
    private bool IsAskedForAnew(RecordedItem item) => item.Action switch
    {
        PlanAction.Install or PlanAction.Downgrade or PlanAction.Remember => true,
        PlanAction.Upgrade or PlanAction.Replace => Find(item) is { } app && app.Follows != item.Reference.Selector,
        PlanAction.Repair or PlanAction.Keep or PlanAction.Remove or PlanAction.Cannot => false,
    };

    private InstalledApp? Find(RecordedItem item) => item.Reference.Id is { } id ? machine.Find(id) : null;

    /// <summary>
    /// Repeats the options of the earlier run. A digest was stated for one file; it says nothing about another version's file
    /// anything.
    /// </summary>
    private static PlanItem Saying(PlanItem item, RecordedItem? earlier)
    {
        if (earlier is null) return item;
        var isSameFile = item.Fetches && item.To == earlier.To && earlier.StatedSha256 != item.Delivery!.Sha256;
        return item with
        {
            StatedSha256 = isSameFile ? earlier.StatedSha256 : null,
            InstallerArguments = item.RunsInstaller && earlier.InstallerArguments.Count > 0
                ? earlier.InstallerArguments
                : item.InstallerArguments,
            Platform = item.Installed is null ? earlier.Platform ?? item.Platform : item.Platform,
        };
    }
}
