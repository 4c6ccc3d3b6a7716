using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Solving;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>The request for one app.</summary>
/// <param name="Id">The app.</param>
/// <param name="Best">The state that would be best; null if nothing is wanted that can be had.</param>
/// <param name="States">All its states; few requests need to look at them.</param>
/// <param name="IsFirm">Whether there is no plan without it; otherwise it is had where the goals before it allow.</param>
/// <param name="Follows">What the user said behind the <c>@</c>; null where they did not.</param>
/// <param name="Make">Makes the item of the plan from the state that was chosen.</param>
internal sealed record Goal(
    AppId Id, Candidate? Best, Lazy<GoalStates> States, bool IsFirm, VersionSelector? Follows, Func<Candidate, PlanItem> Make)
{
    /// <summary>Its possible states, the preferred one first.</summary>
    public IReadOnlyList<Candidate> Candidates => States.Value.Candidates;

    /// <summary>Which of them fulfil the request.</summary>
    public ValueSet Wanted => States.Value.Wanted;

    /// <summary>The installed app, if it will do as it is; then no older version of it was requested.</summary>
    public InstalledApp? KeptIfWanted =>
        Wanted.Values.Select(value => Candidates[value].Kept).FirstOrDefault(kept => kept is not null);

    /// <summary>The same goal, content with other states.</summary>
    public Goal With(ValueSet wanted) =>
        this with { Best = null, States = new Lazy<GoalStates>(new GoalStates(Candidates, wanted)) };

    /// <summary>The same goal where only the best will do.</summary>
    public Goal OnlyBest() => this with { States = new Lazy<GoalStates>(new GoalStates([Best!], ValueSet.One(0))) };
}
