using AmberCrate.Core.Values;

namespace AmberCrate.Core.Comparing;

/// <summary>How an app differs between two sides, the worst first.</summary>
public enum DifferenceKind
{
    /// <summary>It is damaged on the disk.</summary>
    Damaged,

    /// <summary>It is wanted, and not there.</summary>
    Missing,

    /// <summary>The machine has the older version.</summary>
    Older,

    /// <summary>The machine has the newer version.</summary>
    Newer,

    /// <summary>It comes from another catalogue.</summary>
    OtherCatalogue,

    /// <summary>It is the same version made of another file.</summary>
    OtherFile,

    /// <summary>Its pin is another one.</summary>
    OtherPin,

    /// <summary>It follows something else, or its options differ.</summary>
    OtherOptions,

    /// <summary>It is there, and not wanted.</summary>
    OnlyThere,
}

/// <summary>The words for <see cref="DifferenceKind"/>, in lists and in JSON.</summary>
public static class DifferenceWords
{
    /// <summary>A word for each kind.</summary>
    public static WordTable<DifferenceKind> Kinds { get; } = new(
        (DifferenceKind.Damaged, "damaged"), (DifferenceKind.Missing, "missing"), (DifferenceKind.Older, "older"),
        (DifferenceKind.Newer, "newer"), (DifferenceKind.OtherCatalogue, "other-catalogue"),
        (DifferenceKind.OtherFile, "other-file"), (DifferenceKind.OtherPin, "other-pin"),
        (DifferenceKind.OtherOptions, "other-options"), (DifferenceKind.OnlyThere, "extra"));
}
