using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>
/// Takes along what the apps of a plan need, and what that needs in turn. Something that is there already stays as it is where it
/// will do; otherwise the newest release is taken that everything accepts which needs it, installed apps included. A plan that
/// comes out is right; where none is found, the reasons are named.
/// </summary>
/// <param name="machine">The machine.</param>
/// <param name="offers">What is offered.</param>
internal sealed class NeedsTaker(MachineState machine, IOffers offers)
{
    private const int MostSteps = 10_000;

    private readonly OrderedDictionary<string, PlanItem> _items = [];

    /// <summary>Completes a plan; what is needed comes before what needs it.</summary>
    /// <exception cref="ProblemException">Something needed is not offered, or no release of it suits everything that needs it.</exception>
    public IReadOnlyList<PlanItem> Complete(IEnumerable<PlanItem> items)
    {
        foreach (var item in items) _items[item.Id] = item;
        for (var step = 0; Unmet() is { } unmet; step++)
        {
            if (step == MostSteps)
                throw new Problem(ProblemCode.Refused, $"what {unmet.By[0]} needs cannot be planned", "the needs of the apps lead in circles", "install fewer apps at once").ToException();
            Take(unmet.Id, unmet.By);
        }

        return InOrder();
    }

    /// <summary>The first thing that a changed app needs, or that is itself changed, and that is not as everything wants it.</summary>
    private (AppId Id, List<Want> By)? Unmet()
    {
        foreach (var wants in Wants().GroupBy(want => want.Need.Id))
        {
            var by = wants.ToList();
            var planned = _items.GetValueOrDefault(wants.Key.Text);
            if (planned?.Changes != true && !by.Exists(want => want.IsPlanned)) continue;
            if (Afterwards(wants.Key) is not { } there || !by.TrueForAll(want => want.Need.IsMetBy(there.Version, there.Line))) return (wants.Key, by);
        }

        return null;
    }

    private IEnumerable<Want> Wants()
    {
        foreach (var item in _items.Values.Where(item => item.Fetches))
        {
            foreach (var need in item.Offer!.Card.NeedsOf(item.Release!)) yield return new Want(need, $"{item.Id} {item.To}", true);
        }

        foreach (var app in machine.Apps.Where(app => _items.GetValueOrDefault(app.Id.Text) is not { } item || !(item.Fetches || item.Action == PlanAction.Remove)))
        {
            foreach (var need in app.Needs) yield return new Want(need, $"{app.Id} {app.Version} (installed)", false);
        }
    }

    /// <summary>What will be there of an app once the plan has been carried out.</summary>
    private (AppVersion Version, ReleaseLine Line)? Afterwards(AppId id)
    {
        if (_items.TryGetValue(id.Text, out var item) && item.Fetches) return (item.Release!.Version, item.Release.Line);
        return machine.Find(id) is { } app && item?.Action != PlanAction.Remove ? (app.Version, app.Line) : null;
    }

    private void Take(AppId id, List<Want> by)
    {
        var installed = machine.Find(id);
        var planned = _items.GetValueOrDefault(id.Text);
        var asked = planned is not null ? planned.Asked : installed?.Asked;
        var found = offers.Find(id).Where(offer => installed is null || offer.Catalogue == installed.Catalogue).ToList();
        if (found.Count == 0) throw NotOffered(id, by).ToException();
        foreach (var offer in found)
        {
            var fitting = offer.Card.Releases.Where(release => release.ArtifactFor(machine.Platform) is not null
                && asked?.Accepts(release.Version, release.Line) != false && by.TrueForAll(want => want.Need.IsMetBy(release.Version, release.Line))).ToList();
            var release = fitting.Find(release => release.Line == ReleaseLine.Stable) ?? fitting.FirstOrDefault();
            if (release is null) continue;
            _items[id.Text] = release.Version == installed?.Version ? new PlanItem
            {
                Id = id.Text, Installed = installed, Asked = asked, Action = PlanAction.Keep, Note = $"newer ones do not suit {string.Join(", ", by.Select(want => want.By.Split(' ')[0]).Distinct())}",
            }
            : new PlanItem
            {
                Id = id.Text, Installed = installed, Offer = offer, Release = release, Artifact = release.ArtifactFor(machine.Platform), Asked = asked,
                Action = installed is null ? PlanAction.Install : release.Version > installed.Version ? PlanAction.Upgrade : PlanAction.Downgrade,
                NeededBy = planned?.NeededBy.Count == 0 ? [] : [.. by.Where(want => want.IsPlanned).Select(want => want.By.Split(' ')[0]).Distinct()],
            };
            return;
        }

        throw NothingSuits(id, by, asked).ToException();
    }

    private static Problem NotOffered(AppId id, List<Want> by) => new(
        ProblemCode.NothingMatched, $"{id} is needed and not offered", string.Join("; ", by.Select(want => want.ToString())), "ask the keeper of the catalogue, or add one that offers it");

    private static Problem NothingSuits(AppId id, List<Want> by, VersionSelector? asked)
    {
        var reasons = by.Select(want => want.ToString()).ToList();
        if (asked is not null) reasons.Add($"you asked for {id}@{asked}");
        return new Problem(ProblemCode.Refused, $"no release of {id} suits everything that needs it", "", "leave one of these out, or ask for another release of it") { Details = reasons };
    }

    /// <summary>The items in their order, each behind what it needs; circles are cut where they close.</summary>
    private List<PlanItem> InOrder()
    {
        var ordered = new OrderedDictionary<string, PlanItem>();
        var begun = new HashSet<string>(StringComparer.Ordinal);
        foreach (var id in _items.Keys.ToList()) Put(id);
        return [.. ordered.Values];

        void Put(string id)
        {
            if (!begun.Add(id) || !_items.TryGetValue(id, out var item)) return;
            if (item.Fetches)
            {
                foreach (var need in item.Offer!.Card.NeedsOf(item.Release!)) Put(need.Id.Text);
            }

            ordered.Add(id, item);
        }
    }

    private sealed record Want(AppNeed Need, string By, bool IsPlanned)
    {
        public override string ToString() => $"{By} needs {Need}";
    }
}
