namespace AmberCrate.Engine.Equipping;

/// <summary>How to equip a machine.</summary>
/// <param name="Bundle">A file, an address or <c>catalogue:bundle</c>; null where it is a past run.</param>
public sealed record EquipRequest(string? Bundle)
{
    /// <summary>The number of the run whose state is wanted; null where it is not a past run.</summary>
    public long? Run { get; init; }

    /// <summary>Whether the state before that run is wanted, and not the one after it.</summary>
    public bool IsBefore { get; init; }

    /// <summary>The only apps of the bundle that are wanted, as its entries name them; empty for all.</summary>
    public IReadOnlyList<string> Only { get; init; } = [];

    /// <summary>Whether chosen apps that the bundle does not list are uninstalled.</summary>
    public bool UninstallsOthers { get; init; }

    /// <summary>Whether installed apps move forward, within what they follow, that the bundle lists without a version.</summary>
    public bool Upgrades { get; init; }
}
