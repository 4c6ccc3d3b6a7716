using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Plans;

/// <summary>
/// The whole truth about a run: a plan, and what it takes of the machine. The same object is shown, written as JSON and
/// recognised by its digest. It is made by looking at the machine, and is complete from the beginning.
/// </summary>
public sealed record SurveyedPlan
{
    /// <summary>What is done with apps, catalogues and pins.</summary>
    public required Plan Solved { get; init; }

    /// <summary>Whose apps it is about.</summary>
    public required InstallScope Scope { get; init; }

    /// <summary>Whether it only downloads the files of its items, and changes nothing else.</summary>
    public bool FetchesOnly { get; init; }

    /// <summary>What it places outside the shelf: commands, menu entries, icons and so on.</summary>
    public required IReadOnlyList<PlannedPlace> Places { get; init; }

    /// <summary>The programs that are started because of it.</summary>
    public required IReadOnlyList<PlannedStart> Starts { get; init; }

    /// <summary>Which rights it takes.</summary>
    public required RightsNeed Rights { get; init; }

    /// <summary>How much room it takes on each file system.</summary>
    public required IReadOnlyList<SpaceNeed> Space { get; init; }

    /// <summary>
    /// How many of the bytes to download are there already, from an earlier run; they are verified when they are used.
    /// </summary>
    public required long FetchedSize { get; init; }

    /// <summary>How many bytes are freed by what it uninstalls.</summary>
    public required long RoomBack { get; init; }

    /// <summary>The catalogues of its items whose signatures have expired.</summary>
    public required IReadOnlyList<ExpiredCatalogue> Expired { get; init; }

    /// <summary>Apps of the other scope that it installs in this one.</summary>
    public required IReadOnlyList<InstalledApp> InBothScopes { get; init; }

    /// <summary>
    /// The folder of commands that a shell looks into first, where apps are there in both scopes; null where that is none of the
    /// two.
    /// </summary>
    public string? FirstOnPath { get; init; }

    /// <inheritdoc cref="Plan.Items"/>
    public IReadOnlyList<PlanItem> Items => Solved.Items;

    /// <inheritdoc cref="Plan.Changes"/>
    public bool Changes => Solved.Changes;

    /// <inheritdoc cref="Plan.ChangesApps"/>
    public bool ChangesApps => Solved.ChangesApps;

    /// <summary>
    /// What keeps the plan from being carried out at all, known before anything is fetched; null where nothing does.
    /// </summary>
    public Problem? Obstacle => Space.Select(need => need.Shortage).FirstOrDefault(shortage => shortage is not null);

    /// <summary>A plan that does nothing.</summary>
    /// <param name="scope">Whose apps it is about.</param>
    public static SurveyedPlan DoNothing(InstallScope scope) => new()
    {
        Solved = new Plan([]), Scope = scope, Places = [], Starts = [], Rights = RightsNeed.Own, Space = [], FetchedSize = 0,
        RoomBack = 0, Expired = [], InBothScopes = [],
    };
}
