namespace AmberCrate.Core.Machine;

/// <summary>What of an installed app is not on the disk as its record says.</summary>
/// <param name="IsShelfWhole">Whether its version on the shelf is whole, so that it can be placed again from there.</param>
/// <param name="Faults">The faults, in words.</param>
public sealed record AppDamage(bool IsShelfWhole, IReadOnlyList<string> Faults)
{
    /// <summary>The first faults in one sentence.</summary>
    public string Words => string.Join("; ", Faults.Take(2)) + (Faults.Count > 2 ? $"; and {Faults.Count - 2} more" : "");
}
