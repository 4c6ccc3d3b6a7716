using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Storage;

namespace AmberCrate.Engine.Catalogues;

/// <summary>Says whether a fault fails one catalogue or the whole refresh, and puts it into words.</summary>
internal static class RefreshFault
{
    /// <summary>
    /// The problem behind a fault. An unexpected exception comes from the catalogue's data, so it fails that catalogue alone.
    /// </summary>
    public static Problem ToProblem(Exception fault, RegisteredCatalogue catalogue)
    {
        var what = $"the catalogue {catalogue.Name} cannot be refreshed";
        return IoProblems.IsExpected(fault)
            ? IoProblems.ToProblem(fault, what)
            : new Problem(
                ProblemCode.NotVerified, what, $"its data cannot be read: {ForeignText.Words(fault)}",
                "report it to the maintainer");
    }

    /// <summary>Whether a fault is one catalogue's own; damage to the database is everybody's.</summary>
    public static bool IsOfCatalogue(Exception fault) =>
        fault is not (OperationCanceledException or OutOfMemoryException or DatabaseException { IsDamage: true });
}
