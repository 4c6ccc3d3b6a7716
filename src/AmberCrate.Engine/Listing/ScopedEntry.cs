using AmberCrate.Core.Due;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Requirements;
using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Listing;

/// <summary>An installed app beside what is offered, and whose it is.</summary>
/// <param name="Scope">Whose it is.</param>
/// <param name="Entry">The app.</param>
public sealed record ScopedEntry(InstallScope Scope, DueEntry Entry)
{
    /// <summary>What there is to know of it at a glance, in the order of the marks.</summary>
    public IReadOnlyList<AppMark> Marks { get; init; } = [];

    /// <summary>
    /// Whether a security fix is there that an upgrade does not bring now: something holds it back, or the app is in use and
    /// keeps its version until it is closed.
    /// </summary>
    public bool IsFixHeldBack => Entry.HeldFix is not null || IsInUse && Entry.IsSecurity;

    /// <summary>Whether the app is in use and is to be upgraded.</summary>
    public bool IsInUse => Entry.State == DueState.Due && Marks.Contains(AppMark.InUse);

    /// <summary>The same software as packages of the system.</summary>
    public IReadOnlyList<ObservedApp> AlsoHere { get; init; } = [];

    /// <summary>What the system lacks for the version that is due: an upgrade leaves the app out.</summary>
    public IReadOnlyList<SystemLack> Lacks { get; init; } = [];

    /// <summary>Where its live version lies.</summary>
    public string Place { get; init; } = "";
}
