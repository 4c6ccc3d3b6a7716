using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Listing;

/// <summary>What is on a machine.</summary>
/// <param name="Scope">The scope that was requested.</param>
/// <param name="Entries">The apps, ordered by id.</param>
/// <param name="Freshness">How fresh the data of this scope's catalogues are.</param>
public sealed record ListResult(InstallScope Scope, IReadOnlyList<ScopedEntry> Entries, DataFreshness Freshness)
{
    /// <summary>The day, where the machine is.</summary>
    public DateOnly Today { get; init; }

    /// <summary>The same for the other scope, where its apps are among them; null where they are not.</summary>
    public DataFreshness? OtherFreshness { get; init; }

    /// <summary>The apps of the other scope that are in this one too.</summary>
    public IReadOnlyList<InstalledApp> InBothScopes { get; init; } = [];

    /// <summary>The folder of commands that a shell looks into first; null where that is none of the two.</summary>
    public string? FirstOnPath { get; init; }
}
