using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Offers;
using AmberCrate.Core.Solving;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>
/// A request written down for the solver: a variable for every app that matters, a value for each of its possible states, and
/// rules for what apps need and exclude. Only apps that can be reached from what is requested become variables.
/// </summary>
internal sealed class RequestModel
{
    private readonly MachineState _machine;
    private readonly IOffers _offers;
    private readonly OthersMove _others;
    private readonly bool _explains;
    private readonly List<AppId> _ids = [];
    private readonly List<IReadOnlyList<Candidate>> _candidates = [];
    private readonly Dictionary<string, int> _variables = new(StringComparer.Ordinal);
    private readonly List<Rule> _rules = [];
    private readonly Queue<int> _reached = new();
    private readonly List<(int Variable, RelatedApp Other, ValueSet Values)> _conflicts = [];
    private readonly List<(int Variable, InstalledApp App, IReadOnlyList<ReleaseChoice> Choices)> _moved = [];

    /// <summary>For an explanation, the releases by variable that the plan itself leaves out.</summary>
    private readonly Dictionary<int, ValueSet> _onlyExplained = [];

    /// <summary>The lines and versions of apps that others name in what they need.</summary>
    private readonly Dictionary<AppId, List<VersionSelector>> _named = [];

    /// <summary>Writes a request down.</summary>
    /// <param name="machine">The machine.</param>
    /// <param name="offers">What is offered.</param>
    /// <param name="goals">What is requested, the most important first.</param>
    /// <param name="others">How far installed apps may change that the user did not name.</param>
    /// <param name="explains">Whether the model is for an explanation. It then has a rule for each release that is not allowed,
    /// instead of leaving these releases out.</param>
    public RequestModel(
        MachineState machine, IOffers offers, IReadOnlyList<Goal> goals, OthersMove others, bool explains = false)
    {
        (_machine, _offers, _others, _explains) = (machine, offers, others, explains);
        foreach (var goal in goals) AddPinned(goal.Id, goal.Candidates);
        for (var at = 0; at < goals.Count; at++) AddRequest(at, goals[at]);
        GoalCount = goals.Count;
        while (_reached.Count > 0)
        {
            // Those that are reached through the same number of others are looked at together, and so is what they need.
            var wave = _reached.ToArray();
            _reached.Clear();
            _offers.Expect(NeedsOf(wave), everyRelease: true);
            foreach (var variable in wave) Reach(variable);
        }

        foreach (var (variable, app, choices) in _moved) AddHeld(variable, app, choices);
        foreach (var (variable, other, values) in _conflicts) AddConflict(variable, other, values);
    }

    /// <summary>How far installed apps may change that the user did not name.</summary>
    public OthersMove Others => _others;

    /// <summary>Whether an older version was ruled out. If none was, allowing them changes nothing.</summary>
    public bool RefusesOlder { get; private set; }

    /// <summary>How many variables belong to what is requested; they are the first, in the same order.</summary>
    public int GoalCount { get; }

    /// <summary>The apps, by variable.</summary>
    public IReadOnlyList<AppId> Ids => _ids;

    /// <summary>The possible states of each app.</summary>
    public IReadOnlyList<IReadOnlyList<Candidate>> Candidates => _candidates;

    /// <summary>How many states each app has.</summary>
    public IReadOnlyList<int> Sizes => [.. _candidates.Select(candidates => candidates.Count)];

    /// <summary>What must hold.</summary>
    public List<Rule> Rules => _rules;

    /// <summary>
    /// What is preferred: for each thing asked for the best of it; that what is installed stays as it is; and of the rest, that
    /// it is not there or else the best of it.
    /// </summary>
    public IReadOnlyList<Preference> Preferences
    {
        get
        {
            var installed = Enumerable.Range(GoalCount, _ids.Count - GoalCount)
                .Where(at => _candidates[at][0].Kept is not null)
                .OrderBy(at => _ids[at].Text, StringComparer.Ordinal)
                .ToList();
            return
            [
                .. Enumerable.Range(0, GoalCount).Select(at => new Preference.Smallest(at)),
                .. installed.Select(at => new Preference.That(new Term(at, ValueSet.One(0)))),
                .. installed.Select(at => new Preference.Smallest(at)),
            ];
        }
    }

    private int Add(AppId id, IReadOnlyList<Candidate> candidates)
    {
        _ids.Add(id);
        _candidates.Add(candidates);
        _variables.Add(id.Text, _ids.Count - 1);
        _reached.Enqueue(_ids.Count - 1);
        return _ids.Count - 1;
    }

    /// <summary>Adds an app, and what its pin does not let it become.</summary>
    private int AddPinned(AppId id, IReadOnlyList<Candidate> candidates)
    {
        var variable = Add(id, candidates);
        if (_machine.Pins.InForce(id) is not { } pin) return variable;
        var outside = ValueSet.Create(Enumerable.Range(0, candidates.Count)
            .Where(at => candidates[at].Choice is { Release: var release }
                && !pin.Selector.Accepts(release.Version, release.Line)));
        if (!outside.IsEmpty) _rules.Add(new Rule(new PlanReason.PinnedTo(pin), new Term(variable, outside)));
        return variable;
    }

    private void AddRequest(int variable, Goal goal)
    {
        if (ValueSet.Below(goal.Candidates.Count) - goal.Wanted is { IsEmpty: false } unwanted)
        {
            var others = ValueSet.Create(unwanted.Values.Where(value => goal.Candidates[value].Choice is not null));

            // If nothing that is wanted can be had, the app stays as it is. It never becomes a version that was not asked for.
            var never = goal.IsFirm ? unwanted : others;
            if (!never.IsEmpty)
                _rules.Add(
                    new Rule(new PlanReason.AskedFor(goal.Id, goal.Follows, !others.IsEmpty), new Term(variable, never)));
        }

        if (goal.KeptIfWanted is { } kept) AddNotOlder(variable, kept, goal.Wanted.Values, goal.Candidates);
    }

    private void AddNotOlder(
        int variable, InstalledApp installed, IEnumerable<int> values, IReadOnlyList<Candidate> candidates)
    {
        if (_others == OthersMove.AnyVersion) return;
        var older = ValueSet.Create(values.Where(value => IsOlder(candidates[value].Choice, installed)));
        if (older.IsEmpty) return;
        RefusesOlder = true;
        _rules.Add(new Rule(new PlanReason.NotOlder(installed.Id, installed.Version), new Term(variable, older)));
    }

    /// <summary>
    /// Whether a release is older than the installed app. This is the only place for the rule that nothing becomes older unless
    /// the user asked for an older version.
    /// </summary>
    private bool IsOlder(ReleaseChoice? choice, InstalledApp app) =>
        choice is not null && choice.Release.Version < (_machine.RealVersions.GetValueOrDefault(app.Id) ?? app.Version);

    private int VariableOf(AppId id)
    {
        if (_variables.TryGetValue(id.Text, out var known)) return known;
        return _machine.Find(id) is { } installed
            ? AddInstalled(installed)
            : AddPinned(
                id, [Candidate.Absent, .. _offers.Find(id).SelectMany(ChoicesOf).Select(choice => new Candidate(choice, null))]);
    }

    private int AddInstalled(InstalledApp app)
    {
        if (_others == OthersMove.Stay) return Add(app.Id, [new Candidate(null, app)]);
        var offered = CatalogueChange.Allowed(app, _offers.Find(app.Id)).SelectMany(ChoicesOf)
            .Where(choice => choice.Release.Version != app.Version).ToList();
        var choices = _explains || _others == OthersMove.AnyVersion
            ? offered
            : offered.FindAll(choice => !IsOlder(choice, app));
        if (choices.Count < offered.Count) RefusesOlder = true;
        List<Candidate> candidates = [new Candidate(null, app), .. choices.Select(choice => new Candidate(choice, null))];
        var variable = AddPinned(app.Id, candidates);
        if (_explains)
        {
            AddNotOlder(variable, app, Enumerable.Range(0, candidates.Count), candidates);
            if (_others != OthersMove.AnyVersion)
                _onlyExplained[variable] = ValueSet.Create(
                    Enumerable.Range(0, candidates.Count).Where(value => IsOlder(candidates[value].Choice, app)));
        }

        _moved.Add((variable, app, choices));
        return variable;
    }

    /// <summary>Writes down that an app stays within what it follows, once it is known what others need.</summary>
    private void AddHeld(int variable, InstalledApp app, IReadOnlyList<ReleaseChoice> choices)
    {
        var outside = ValueSet.Create(
            Enumerable.Range(0, choices.Count).Where(at => !IsFollowed(app, choices[at].Release, choices[at].Offer))
                .Select(at => at + 1));
        if (!outside.IsEmpty)
            _rules.Add(new Rule(new PlanReason.Held(app.Id, app.Version, app.Follows), new Term(variable, outside)));
    }

    /// <summary>
    /// Whether an app may go to a release of itself: within what it follows. A dependency leaves its
    /// line only for an app that names another line or a version.
    /// </summary>
    private bool IsFollowed(InstalledApp app, Release release, Offer offer) =>
        app.Follows is { } asked ? asked.Accepts(release.Version, release.Line)
        : release.Line == offer.Card.DefaultLineFor(_machine.PlatformOf(app.Id))
            || (app.IsDependency && (release.Line == app.Line || (_named.TryGetValue(app.Id, out var named)
                && named.Exists(selector => selector.Accepts(release.Version, release.Line)))));

    /// <summary>
    /// Every release of an offer that a machine can use: those that it would get by default, newest first, then the others.
    /// </summary>
    private IEnumerable<ReleaseChoice> ChoicesOf(Offer offer)
    {
        List<ReleaseChoice> usual = [], others = [];
        var line = offer.Card.DefaultLineFor(_machine.PlatformOf(offer.Card.Id));
        foreach (var release in offer.Card.Releases)
        {
            if (release.DeliveryFor(_machine.PlatformOf(offer.Card.Id)) is { } delivery)
                (release.Line == line ? usual : others).Add(new ReleaseChoice(offer, release, delivery));
        }

        return usual.Concat(others);
    }

    /// <summary>
    /// The apps that some others need, in one release or another, and that are not looked up yet. One that is installed and
    /// stays is not looked for.
    /// </summary>
    private HashSet<AppId> NeedsOf(int[] variables)
    {
        var needed = new HashSet<AppId>();
        foreach (var variable in variables)
        {
            foreach (var candidate in _candidates[variable])
            {
                foreach (var need in candidate.Needs)
                {
                    if (!_variables.ContainsKey(need.Id.Text) && (_others != OthersMove.Stay || _machine.Find(need.Id) is null))
                        needed.Add(need.Id);
                }
            }
        }

        return needed;
    }

    /// <summary>Writes down what an app needs and excludes, and brings in the installed apps that need or exclude it.</summary>
    private void Reach(int variable)
    {
        foreach (var (need, values) in ByOther(variable, candidate => candidate.Needs)) AddNeed(variable, need, values);
        foreach (var (other, values) in ByOther(variable, candidate => candidate.Conflicts))
        {
            if (_machine.Find(other.Id) is not null) VariableOf(other.Id);
            _conflicts.Add((variable, other, values));
        }

        foreach (var dependant in _machine.RelatedTo(_ids[variable])) VariableOf(dependant.Id);
    }

    private IEnumerable<(RelatedApp Other, ValueSet Values)> ByOther(
        int variable, Func<Candidate, IReadOnlyList<RelatedApp>> related)
    {
        var candidates = _candidates[variable];
        if (candidates.Count == 1) return related(candidates[0]).Distinct().Select(other => (other, ValueSet.One(0)));
        var found = new OrderedDictionary<RelatedApp, ValueSet>();
        for (var value = 0; value < candidates.Count; value++)
        {
            foreach (var other in related(candidates[value])) found[other] = found.GetValueOrDefault(other) | ValueSet.One(value);
        }

        return found.Select(pair => (pair.Key, pair.Value));
    }

    private void AddNeed(int variable, RelatedApp need, ValueSet values)
    {
        // What is not met already is not made a reason against a change that has nothing to do with it.
        if (!(_machine.Find(need.Id) is { } there && need.Accepts(there.Version, there.Line))) values -= Kept(variable);
        if (values.IsEmpty) return;
        // An older release that is only here to be explained opens no line that the plan itself cannot take.
        if (need.Selector is VersionSelector.OfLine or VersionSelector.Exactly
            && !(values - _onlyExplained.GetValueOrDefault(variable)).IsEmpty)
        {
            if (!_named.TryGetValue(need.Id, out var named)) _named.Add(need.Id, named = []);
            named.Add(need.Selector);
        }

        var other = VariableOf(need.Id);
        var meets = Matching(other, need);
        var reason = new PlanReason.Needs(_ids[variable], Which(variable, values), need, !meets.IsEmpty);
        if (other == variable) _rules.Add(new Rule(reason, new Term(variable, values - meets)));
        else if (meets.IsEmpty) _rules.Add(new Rule(reason, new Term(variable, values)));
        else _rules.Add(
            new Rule(reason, new Term(variable, values), new Term(other, ValueSet.Below(_candidates[other].Count) - meets)));
    }

    private void AddConflict(int variable, RelatedApp other, ValueSet values)
    {
        if (!_variables.TryGetValue(other.Id.Text, out var against) || against == variable) return;
        var excluded = Matching(against, other);
        if (excluded.IsEmpty) return;
        var reason = new PlanReason.Excludes(_ids[variable], Which(variable, values), other);
        var (kept, keptAgainst) = (values & Kept(variable), excluded & Kept(against));
        if (kept.IsEmpty || keptAgainst.IsEmpty)
        {
            _rules.Add(new Rule(reason, new Term(variable, values), new Term(against, excluded)));
            return;
        }

        // Both are there now: so they may be, but no change may bring about the same.
        if (values - kept is { IsEmpty: false } changed)
            _rules.Add(new Rule(reason, new Term(variable, changed), new Term(against, excluded)));
        if (excluded - keptAgainst is { IsEmpty: false } changedAgainst)
            _rules.Add(new Rule(reason, new Term(variable, values), new Term(against, changedAgainst)));
    }

    private ValueSet Matching(int variable, RelatedApp other) =>
        ValueSet.Create(
            Enumerable.Range(0, _candidates[variable].Count).Where(value => _candidates[variable][value].IsMeantBy(other)));

    private ValueSet Kept(int variable) =>
        ValueSet.Create(
            Enumerable.Range(0, _candidates[variable].Count).Where(value => _candidates[variable][value].Kept is not null));

    /// <summary>Some releases of an app, for a sentence.</summary>
    private string Which(int variable, ValueSet values)
    {
        var candidates = _candidates[variable];
        var chosen = values.Values.Select(value => candidates[value])
            .Where(candidate => candidate.Version is not null)
            .OrderBy(candidate => candidate.Version)
            .ToList();
        var id = _ids[variable];
        if (chosen is [var only]) return $"{id} {only.Version}{(only.Kept is null ? "" : " (installed)")}";
        if (chosen.Count == candidates.Count(candidate => candidate.Version is not null)) return $"every release of {id}";
        return chosen.Count == 2
            ? $"{id} {chosen[0].Version} and {chosen[1].Version}"
            : $"{id} {chosen[0].Version} to {chosen[^1].Version}";
    }
}
