using AmberCrate.Core.Plans;

namespace AmberCrate.Engine.Sessions;

/// <summary>
/// Asks the user. An operation asks once, after it has shown the plan. It asks a second time only if apps become older
/// although the user did not ask for that, or if their cards have changed since they were installed.
/// </summary>
public interface IConfirm
{
    /// <summary>Whether there is someone to ask.</summary>
    bool CanAsk { get; }

    /// <summary>Lets the user choose which items of a plan to carry out.</summary>
    /// <returns>The rest of the plan; null where they call it off.</returns>
    /// <exception cref="OperationCanceledException">The user interrupted instead of answering.</exception>
    Plan? Pick(Plan plan, CancellationToken cancel);

    /// <summary>Lets the user choose some of a list of names; all are ticked at first.</summary>
    /// <param name="choices">The names, and the text beside each.</param>
    /// <param name="cancel">Cancels the operation.</param>
    /// <returns>The names that were left ticked; null where they call it off.</returns>
    /// <exception cref="OperationCanceledException">The user interrupted instead of answering.</exception>
    IReadOnlySet<string>? Pick(IReadOnlyList<(string Name, string Words)> choices, CancellationToken cancel);

    /// <summary>Asks whether to carry a plan out.</summary>
    /// <exception cref="OperationCanceledException">The user interrupted instead of answering.</exception>
    bool MayGoAhead(SurveyedPlan plan, CancellationToken cancel);

    /// <summary>Asks whether apps may become older although the user did not ask for that.</summary>
    /// <exception cref="OperationCanceledException">The user interrupted instead of answering.</exception>
    bool MayMakeOlder(IReadOnlyList<PlanItem> older, CancellationToken cancel);

    /// <summary>Asks whether to go on with apps whose cards state something differently since they were installed.</summary>
    /// <exception cref="OperationCanceledException">The user interrupted instead of answering.</exception>
    bool MayTakeChangedCards(IReadOnlyList<PlanItem> changed, CancellationToken cancel);

    /// <summary>Asks whether to trust the root of a catalogue.</summary>
    /// <exception cref="OperationCanceledException">The user interrupted instead of answering.</exception>
    bool MayTrust(OfferedRoot offered, CancellationToken cancel);

    /// <summary>Asks whether to sign what has just been shown.</summary>
    /// <exception cref="OperationCanceledException">The user interrupted instead of answering.</exception>
    bool MaySign(CancellationToken cancel);

    /// <summary>Asks whether to delete what frees space.</summary>
    /// <exception cref="OperationCanceledException">The user interrupted instead of answering.</exception>
    bool MayReclaim(ReclaimPlan plan, CancellationToken cancel);
}
