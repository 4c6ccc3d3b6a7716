namespace AmberCrate.Core.Solving;

/// <summary>
/// Finds values for variables such that every rule is kept: a complete search over finite domains that learns a new rule from
/// every conflict and goes back as far as that rule allows. The method is conflict-driven clause learning (J. P. Marques-Silva,
/// K. A. Sakallah: GRASP, 1996), with sets of values instead of truth values.
/// <para>
/// Decisions are made in one fixed order, and a decision is only taken back by a rule that follows from the decisions before
/// it. So the solution found is the first one by the order of preferences: the first preference that can be met is met, then
/// the second as far as the first allows, and so on.
/// </para>
/// </summary>
public sealed class Solver
{
    private readonly ValueSet[] _domains;
    private readonly List<Rule>[] _rulesOf;
    private readonly int[] _lastStep;
    private readonly List<Step> _trail = [];
    private readonly List<(int Step, int Place)> _decisions = [];
    private readonly Queue<int> _narrowed = new();
    private readonly bool[] _isQueued;
    private readonly List<Rule> _given;
    private long _workLeft;

    /// <summary>Takes a problem.</summary>
    /// <param name="sizes">How many values each variable has.</param>
    /// <param name="rules">The rules.</param>
    public Solver(IReadOnlyList<int> sizes, IEnumerable<Rule> rules)
    {
        _domains = [.. sizes.Select(ValueSet.Below)];
        _rulesOf = [.. sizes.Select(_ => new List<Rule>())];
        _lastStep = new int[sizes.Count];
        Array.Fill(_lastStep, -1);
        _isQueued = new bool[sizes.Count];
        _given = [.. rules];
        foreach (var rule in _given) Watch(rule);
    }

    /// <summary>Solves the problem; to be called once.</summary>
    /// <param name="preferences">What is preferred, the most important first; behind it, that every variable has its smallest
    /// possible value.</param>
    /// <param name="mostWork">How many terms may be looked at before giving up; the time that this takes grows in
    /// proportion.</param>
    public Solution Solve(IReadOnlyList<Preference> preferences, long mostWork)
    {
        IReadOnlyList<Preference> all =
            [.. preferences, .. Enumerable.Range(0, _domains.Length).Select(variable => new Preference.Smallest(variable))];
        _workLeft = mostWork;
        var conflict = _given.Find(rule => rule.Terms.Count == 0);
        for (var variable = 0; variable < _domains.Length; variable++) Queue(variable);
        while (true)
        {
            conflict ??= Propagate();
            if (_workLeft < 0) return new Solution.GivenUp();
            if (conflict is not null)
            {
                if (Learn(conflict) is { } contradiction) return new Solution.Impossible(contradiction.Given());
                conflict = null;
            }
            else if (!Decide(all))
            {
                return new Solution.Found([.. _domains.Select(domain => domain.First)]);
            }
        }
    }

    private void Watch(Rule rule)
    {
        foreach (var term in rule.Terms) _rulesOf[term.Variable].Add(rule);
    }

    private void Queue(int variable)
    {
        if (_isQueued[variable]) return;
        _isQueued[variable] = true;
        _narrowed.Enqueue(variable);
    }

    /// <summary>Draws every conclusion from single rules.</summary>
    /// <returns>A rule that is broken; null if none is.</returns>
    private Rule? Propagate()
    {
        while (_narrowed.TryDequeue(out var variable))
        {
            _isQueued[variable] = false;
            foreach (var rule in _rulesOf[variable])
            {
                if (Breaks(rule)) return rule;
            }

            if (_workLeft < 0) return null;
        }

        return null;
    }

    /// <summary>Whether all terms of a rule are true. Where all but one are, that one is made false.</summary>
    private bool Breaks(Rule rule)
    {
        var open = -1;
        var terms = rule.Terms;
        for (var at = 0; at < terms.Count; at++)
        {
            _workLeft--;
            var (variable, values) = terms[at];
            if (_domains[variable].IsWithin(values)) continue;
            if (open >= 0 || !_domains[variable].Meets(values)) return false;
            open = at;
        }

        if (open < 0) return true;
        Narrow(terms[open].Variable, _domains[terms[open].Variable] - terms[open].Values, rule);
        return false;
    }

    private void Narrow(int variable, ValueSet domain, Rule? cause)
    {
        _trail.Add(new Step(variable, _domains[variable], _lastStep[variable], _decisions.Count, cause));
        _lastStep[variable] = _trail.Count - 1;
        _domains[variable] = domain;
        Queue(variable);
    }

    /// <summary>Learns from a broken rule, and goes back to where what was learned says something new.</summary>
    /// <returns>A rule that nothing keeps; null where there is hope.</returns>
    private Rule? Learn(Rule conflict)
    {
        var rule = conflict;
        while (true)
        {
            var (pivot, last, levelBefore) = Latest(rule);
            if (last < 0) return rule;
            var step = _trail[last];
            if (levelBefore < step.Level)
            {
                GoBackTo(levelBefore);
                var (variable, values) = rule.Terms[pivot];
                if (!ReferenceEquals(rule, conflict)) Watch(rule);
                Narrow(variable, _domains[variable] - values, rule);
                return null;
            }

            rule = Resolve(rule, pivot, step.Cause!);
        }
    }

    /// <summary>
    /// The term of a broken rule that became true last, the step at which it did (-1 for from the start), and the level of the
    /// others.
    /// </summary>
    private (int Pivot, int Step, int LevelBefore) Latest(Rule rule)
    {
        var (pivot, last, before) = (-1, -1, -1);
        for (var at = 0; at < rule.Terms.Count; at++)
        {
            _workLeft--;
            var step = TrueSince(rule.Terms[at]);
            if (step > last) (pivot, last, before) = (at, step, last);
            else before = Math.Max(before, step);
        }

        return (pivot, last, before < 0 ? 0 : _trail[before].Level);
    }

    private int TrueSince(Term term)
    {
        var step = _lastStep[term.Variable];
        while (step >= 0 && _trail[step].Before.IsWithin(term.Values)) step = _trail[step].Previous;
        return step;
    }

    /// <summary>
    /// What follows from two rules if one narrowed a variable of the other: with x in S and X never, and x in T and Y
    /// never, x in S or T with X and Y is never.
    /// </summary>
    private Rule Resolve(Rule rule, int pivot, Rule cause)
    {
        var variable = rule.Terms[pivot].Variable;
        var terms = new List<Term>(rule.Terms.Count + cause.Terms.Count);
        terms.AddRange(rule.Terms);
        foreach (var (other, values) in cause.Terms)
        {
            var at = terms.FindIndex(term => term.Variable == other);
            if (at < 0) terms.Add(new Term(other, values));
            else terms[at] = new Term(other, other == variable ? terms[at].Values | values : terms[at].Values & values);
        }

        _workLeft -= terms.Count;
        terms.RemoveAll(term => TrueSince(term) < 0);
        return new Rule(terms, rule, cause);
    }

    private void GoBackTo(int level)
    {
        var from = _decisions[level].Step;
        for (var at = _trail.Count - 1; at >= from; at--)
        {
            var step = _trail[at];
            _domains[step.Variable] = step.Before;
            _lastStep[step.Variable] = step.Previous;
        }

        _trail.RemoveRange(from, _trail.Count - from);
        _decisions.RemoveRange(level, _decisions.Count - level);
        _narrowed.Clear();
        Array.Clear(_isQueued);
    }

    /// <summary>Makes the next decision; false if nothing is left to decide.</summary>
    private bool Decide(IReadOnlyList<Preference> preferences)
    {
        // What was settled when the last decision was made is settled still: domains only become narrower.
        for (var place = _decisions.Count == 0 ? 0 : _decisions[^1].Place; place < preferences.Count; place++)
        {
            _workLeft--;
            var (variable, values) = preferences[place] switch
            {
                Preference.That that => that.Term,
                Preference.Smallest smallest => new Term(smallest.Variable, ValueSet.One(_domains[smallest.Variable].First)),
                _ => throw new NotSupportedException(),
            };
            if (_domains[variable].IsWithin(values) || !_domains[variable].Meets(values)) continue;
            _decisions.Add((_trail.Count, place));
            Narrow(variable, _domains[variable] & values, null);
            return true;
        }

        return false;
    }

    /// <summary>One narrowing of a domain.</summary>
    /// <param name="Variable">Whose domain.</param>
    /// <param name="Before">The domain before.</param>
    /// <param name="Previous">The step that narrowed the same domain before; -1 for none.</param>
    /// <param name="Level">How many decisions had been made, this one included.</param>
    /// <param name="Cause">The rule that it follows from; null for a decision.</param>
    private readonly record struct Step(int Variable, ValueSet Before, int Previous, int Level, Rule? Cause);
}
