using AmberCrate.Core.Machine;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Layout;

namespace AmberCrate.Engine.Records;

/// <summary>What the other scope has: all users' apps where a user looks at their own, and the other way round.</summary>
/// <param name="Layout">Where it lies.</param>
/// <param name="Apps">Its apps, ordered by id.</param>
/// <param name="Fault">Why they cannot be read; null where they can.</param>
public sealed record OtherScope(MachineLayout Layout, IReadOnlyList<InstalledApp> Apps, Problem? Fault)
{
    /// <summary>Its catalogues, in order of preference.</summary>
    public IReadOnlyList<RegisteredCatalogue> Catalogues { get; private init; } = [];

    /// <summary>Looks at a scope.</summary>
    /// <param name="layout">Where it lies.</param>
    /// <param name="clock">The clock.</param>
    public static OtherScope Read(MachineLayout layout, TimeProvider clock)
    {
        if (!File.Exists(layout.RecordsFile)) return new OtherScope(layout, [], null);
        try
        {
            using var records = RecordStore.Open(layout, clock, create: false);
            return new OtherScope(layout, records.Apps(), null) { Catalogues = records.Catalogues() };
        }
        catch (ProblemException fault)
        {
            return new OtherScope(layout, [], fault.Problem);
        }
    }

    /// <summary>The app with this id; null where it is not there.</summary>
    public InstalledApp? Find(AppId id) => Apps.FirstOrDefault(app => app.Id == id);

    /// <summary>The folder of commands that a shell looks into first; null where it looks into none of the two.</summary>
    /// <param name="here">Where this scope lies.</param>
    /// <param name="searchPath">The value of PATH.</param>
    public string? FirstOnPath(MachineLayout here, string searchPath) =>
        searchPath.Split(':')
            .Select(folder => folder.TrimEnd('/'))
            .FirstOrDefault(folder => folder == here.BinFolder || folder == Layout.BinFolder);
}
