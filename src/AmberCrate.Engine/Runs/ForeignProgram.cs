using AmberCrate.Core.Plans;
using AmberCrate.Core.Problems;
using AmberCrate.Engine.Installers;

namespace AmberCrate.Engine.Runs;

/// <summary>Whether the programs may run that an app brings with it and that are started to install it.</summary>
/// <param name="confinement">Says whether they are confined.</param>
/// <param name="consent">What the user has agreed to.</param>
internal sealed class ForeignProgram(Confinement confinement, RunConsent consent)
{
    private const string Packages = "install bubblewrap and util-linux with the system's package manager";

    /// <summary>Whether they run: confined, or since the user says so.</summary>
    public bool MayRun => confinement.IsConfined || (Confinement.CanRunUnconfined && consent.Unconfined);

    /// <summary>Why an item cannot be installed; null where it can, as far as its installer goes.</summary>
    public Problem? Obstacle(PlanItem item) => !item.RunsInstaller || MayRun ? null : new Problem(
        ProblemCode.Refused,
        $"the installer of {item.Id} cannot run safely",
        "it cannot be confined: bwrap, prlimit or setpriv is missing on this machine, or does not work",
        Confinement.CanRunUnconfined
            ? $"{Packages}; or add --allow-unconfined, and it runs with all your rights"
            : $"{Packages}; as root nothing runs without them");

    /// <summary>The plan, which says of each app that it cannot be started once to see whether it works.</summary>
    public Plan AddNotes(Plan plan) => !plan.Items.Any(IsUntried) ? plan : plan with
    {
        Items = [.. plan.Items.Select(
            item => IsUntried(item) ? item with { Notes = [.. item.Notes, PlanNote.NotTried()] } : item)],
    };

    /// <summary>Whether an app should be started once and will not be.</summary>
    private bool IsUntried(PlanItem item) =>
        item.Fetches && item.Offer!.Card.PlacementOf(item.Release!).Check is not null && !MayRun;
}
