using AmberCrate.Core.Solving;

namespace AmberCrate.Core.Planning;

/// <summary>The states in which an app can be.</summary>
/// <param name="Candidates">Each of them, the preferred one first.</param>
/// <param name="Wanted">Which of them are what is wanted.</param>
internal sealed record GoalStates(IReadOnlyList<Candidate> Candidates, ValueSet Wanted);
