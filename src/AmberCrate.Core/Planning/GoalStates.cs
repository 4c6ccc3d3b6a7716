using AmberCrate.Core.Solving;

namespace AmberCrate.Core.Planning;

/// <summary>The possible states of an app.</summary>
/// <param name="Candidates">Each of them, the preferred one first.</param>
/// <param name="Wanted">Which of them fulfil the request.</param>
internal sealed record GoalStates(IReadOnlyList<Candidate> Candidates, ValueSet Wanted);
