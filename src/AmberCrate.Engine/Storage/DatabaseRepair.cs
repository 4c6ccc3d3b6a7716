using AmberCrate.Core.Problems;

namespace AmberCrate.Engine.Storage;

/// <summary>What to do where a database of a root is damaged.</summary>
public static class DatabaseRepair
{
    /// <summary>The name of the database of records.</summary>
    public const string RecordsName = "records.db";

    /// <summary>The name of the database of what catalogues offer.</summary>
    public const string CataloguesName = "catalogues.db";

    /// <summary>What to do, by the file's name; nothing where that is not known.</summary>
    internal static Advice AdviceFor(string file) => file switch
    {
        "" => Advice.None,
        RecordsName =>
            $"restore it from a copy. Without a copy: move it away with {file}-wal and {file}-shm, and add the catalogues again; "
                + $"acrate then takes up the apps that are installed",
        _ => $"remove it, and {file}-wal and {file}-shm beside it: {NextCommand.Create("catalogue refresh")} makes a new one",
    };
}
