using AmberCrate.Core.Cards;
using AmberCrate.Core.Solving;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Planning;

/// <summary>What is wanted of one app.</summary>
/// <param name="Id">The app.</param>
/// <param name="Candidates">The states in which it can be, the preferred one first.</param>
/// <param name="Wanted">Which of them are what is wanted.</param>
/// <param name="IsFirm">Whether there is no plan without it; otherwise it is had where the wishes before it allow.</param>
/// <param name="Asked">What the person said behind the <c>@</c>; null where they did not.</param>
/// <param name="Make">Makes the item of the plan from the state that was chosen.</param>
internal sealed record Aim(AppId Id, IReadOnlyList<Candidate> Candidates, ValueSet Wanted, bool IsFirm, VersionSelector? Asked, Func<Candidate, PlanItem> Make);
