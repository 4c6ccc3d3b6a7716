using AmberCrate.Core.Machine;
using AmberCrate.Core.Pins;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Tests.Planning;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Tests.Model;

/// <summary>A machine in memory that carries plans out as the real one does, and keeps records of its runs.</summary>
internal sealed class ModelMachine
{
    private readonly Dictionary<string, InstalledApp> _apps = new(StringComparer.Ordinal);
    private readonly HashSet<(string Id, string Shelf, string Sha256)> _shelf = [];
    private readonly Dictionary<string, KeptCard> _kept = new(StringComparer.Ordinal);
    private DateTimeOffset _now = new(2026, 10, 1, 0, 0, 0, default);

    /// <summary>The runs, the latest last.</summary>
    public List<(List<RecordedItem> Items, DateTimeOffset Begun)> Runs { get; } = [];

    public List<Pin> Pins { get; } = [];

    public DateTimeOffset Tick() => _now = _now.AddMinutes(1);

    public MachineState State => new(FixedOffers.Here, _apps.Values)
    {
        Pins = new PinList(Pins, new DateOnly(2026, 10, 1)), Kept = app => _kept.GetValueOrDefault(app.Sha256.Hex),
    };

    /// <summary>The list of apps, in words.</summary>
    public string Listed => string.Join('\n', _apps.Values.OrderBy(app => app.Id.Text, StringComparer.Ordinal).Select(app =>
        $"{app.Catalogue}:{app.Id} {app.Version} {app.Sha256.Hex[..6]} @{app.Follows}{(app.IsDependency ? " dependency" : "")}"));

    public bool IsOnShelf(InstalledApp app) => _shelf.Contains((app.Id.Text, app.ShelfName, app.Sha256.Hex));

    /// <summary>Carries a plan out.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="fails">Tells whether an item fails.</param>
    /// <returns>Whether all went well.</returns>
    public bool CarryOut(Plan plan, Func<PlanItem, bool> fails)
    {
        if (!plan.Changes) return true;
        var begun = Tick();
        Tick();
        var broken = new HashSet<string>(StringComparer.Ordinal);
        var items = new List<RecordedItem>();
        foreach (var item in plan.Items)
        {
            var before = _apps.GetValueOrDefault(item.Id);
            var lacks = item.Action == PlanAction.Remove
                ? broken.Any(id => _apps.TryGetValue(id, out var stays) && stays.Needs.Any(need => need.Id.Text == item.Id))
                : item.Fetches && item.Offer!.Card.NeedsOf(item.Release!).Any(need => broken.Contains(need.Id.Text));
            var outcome = item.Action == PlanAction.Cannot ? Outcome.NotOffered
                : !item.Changes ? Outcome.Unchanged
                : fails(item) || lacks ? Outcome.Failed
                : item.Action == PlanAction.Remember ? Outcome.Unchanged : Outcome.Done;
            if (outcome == Outcome.Failed) broken.Add(item.Id);
            else if (item.Changes) Change(item);
            items.Add(new RecordedItem(
                new AppReference(item.Offer?.Catalogue ?? item.Installed?.Catalogue, item.Id, item.Follows), item.Action, item.To,
                outcome)
            {
                Before = before, After = _apps.GetValueOrDefault(item.Id),
            });
        }

        Runs.Add((items, begun));
        return broken.Count == 0;
    }

    private void Change(PlanItem item)
    {
        if (item.Action == PlanAction.Remove)
        {
            _apps.Remove(item.Id);
            _shelf.RemoveWhere(one => one.Id == item.Id);
        }
        else if (item.Action == PlanAction.Remember)
        {
            _apps[item.Id] = _apps[item.Id] with { Follows = item.Follows, IsDependency = item.IsDependency };
        }
        else
        {
            var app = item.Restores ?? After(item);
            _apps[item.Id] = app;
            _shelf.Add((item.Id, app.ShelfName, app.Sha256.Hex));
            if (item.Fetches) _kept[app.Sha256.Hex] =
                KeptCard.FromCard(item.Offer!.Card, item.Release!, item.Delivery!, app.Sha256, item.Offer.Base);
        }
    }

    private static InstalledApp After(PlanItem item) => new()
    {
        Id = item.Offer!.Card.Id, Name = item.Offer.Card.Name, Kind = item.Offer.Card.Kind, Version = item.Release!.Version,
        Architecture = "any", Line = item.Release.Line, Released = item.Release.Date, Catalogue = item.Offer.Catalogue,
        Follows = item.Follows, InstalledAt = DateTimeOffset.UnixEpoch, Source = "/a", Sha256 = item.DeliveryDigest!,
        Needs = item.Offer.Card.NeedsOf(item.Release), Conflicts = item.Offer.Card.ConflictsOf(item.Release),
        IsDependency = item.IsDependency,
        HasReplaced = item.Action == PlanAction.Replace
            || (item.Action == PlanAction.Repair && item.Installed?.HasReplaced == true),
    };
}
