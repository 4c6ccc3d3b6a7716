using AmberCrate.Core.Trust;

namespace AmberCrate.Engine.Trust;

/// <summary>How a role stands.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Version">The version that is believed.</param>
/// <param name="Expires">When it ends to be of use.</param>
/// <param name="Issued">When it was signed; null where it does not say.</param>
public sealed record RoleState(string Name, long Version, DateTimeOffset Expires, DateTimeOffset? Issued)
{
    private const double ShareToWarn = 0.2;

    /// <summary>What was left to it by the targets; null for a role of the top level.</summary>
    public Delegation? Delegation { get; init; }

    /// <summary>Whether it is a role of another maintainer. What ends with it are their apps, not the catalogue.</summary>
    public bool IsDelegated { get; init; }

    /// <summary>Whether less than a fifth of its period is left, or nothing.</summary>
    public bool EndsSoon(DateTimeOffset now) =>
        Expires <= now || (Issued is { } issued && Expires - now < (Expires - issued) * ShareToWarn);
}
