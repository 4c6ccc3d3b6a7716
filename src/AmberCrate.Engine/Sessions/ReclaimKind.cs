using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Sessions;

/// <summary>What takes room.</summary>
public enum ReclaimKind
{
    /// <summary>A version of an app that is not live any more.</summary>
    OldVersion,

    /// <summary>A download that is kept for the next time.</summary>
    Download,

    /// <summary>What an earlier run has left.</summary>
    Leftover,

    /// <summary>The log of an earlier run.</summary>
    Log,

    /// <summary>The records of runs that no undo can need any more.</summary>
    Record,
}

/// <summary>The words for <see cref="ReclaimKind"/>, in JSON.</summary>
public static class ReclaimWords
{
    /// <summary>A word for each kind.</summary>
    public static WordTable<ReclaimKind> Kinds { get; } = new(
        (ReclaimKind.OldVersion, "old-version"), (ReclaimKind.Download, "download"), (ReclaimKind.Leftover, "leftover"),
        (ReclaimKind.Log, "log"), (ReclaimKind.Record, "record"));
}
