using AmberCrate.Core.Machine;
using AmberCrate.Core.Plans;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;

namespace AmberCrate.Core.Runs;

/// <summary>An item of an earlier run, as its record has it.</summary>
/// <param name="Reference">What it takes to ask for the same again: the app, its catalogue, and what was remembered as asked
/// for.</param>
/// <param name="Action">What was to be done.</param>
/// <param name="To">The version that was to be there afterwards; null for none.</param>
/// <param name="Outcome">How it ended; null where the run was cut off before it had.</param>
public sealed record RecordedItem(AppReference Reference, PlanAction Action, AppVersion? To, Outcome? Outcome)
{
    /// <summary>The digest that the user had stated for the file of <see cref="To"/>; null for none.</summary>
    public Sha256Digest? StatedSha256 { get; init; }

    /// <summary>What was to be given to its installer.</summary>
    public IReadOnlyList<string> InstallerArguments { get; init; } = [];

    /// <summary>The platform that was requested; null for that of the machine.</summary>
    public Platform? Platform { get; init; }

    /// <summary>
    /// The whole state of the app before the run; null where it was not there, or the record is older than these states.
    /// </summary>
    public InstalledApp? Before { get; init; }

    /// <summary>
    /// The whole state of the app after the run; null where it was not there, the run was cut off, or the record is older than
    /// these states.
    /// </summary>
    public InstalledApp? After { get; init; }

    /// <summary>Why it failed or waited; null where it did neither.</summary>
    public string? Reason { get; init; }

    /// <summary>Whether the app was changed by the run, as far as the record says.</summary>
    public bool HasChanged => Outcome is Runs.Outcome.Done && Action is not PlanAction.Repair
        || (Outcome is Runs.Outcome.Done or Runs.Outcome.Unchanged && !Equals(Stands(Before), Stands(After)));

    /// <summary>
    /// How an app stands: its version and file, the selector that it follows, and whether the user chose it.
    /// </summary>
    internal static object? Stands(InstalledApp? app) =>
        app is null ? null : (app.ShelfName, app.Sha256, app.Follows, app.IsDependency);

    /// <summary>
    /// Whether it did not end as planned: it failed, waited for an app to be closed, or was not reached. <see cref="RunLeft"/>
    /// says whether it is still to be done.
    /// </summary>
    public bool IsLeft => Outcome?.IsLeft() != false;
}
