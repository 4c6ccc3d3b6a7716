namespace AmberCrate.Core.Comparing;

/// <summary>How one app differs between the wanted and the actual state.</summary>
/// <param name="Kind">How.</param>
/// <param name="Wanted">The app as it is wanted; null where it is not.</param>
/// <param name="There">The app as it is there; null where it is not.</param>
/// <param name="Words">What differs, in words; may be empty where the kind says it all.</param>
public sealed record Difference(DifferenceKind Kind, ComparedApp? Wanted, ComparedApp? There, string Words)
{
    /// <summary>The app.</summary>
    public string App => (Wanted ?? There)!.Name;
}
