using AmberCrate.Core.Trust;

namespace AmberCrate.Engine.Trust;

/// <summary>What is believed of a signed catalogue.</summary>
/// <param name="Root">The root.</param>
/// <param name="Roles">The version and the end of each role that is known, in the order they are checked.</param>
public sealed record TrustState(RootMetadata Root, IReadOnlyList<RoleState> Roles)
{
    /// <summary>The role that ends first; null where only the root is known.</summary>
    public RoleState? EndsFirst => Roles.Where(role => !role.IsDelegated).MinBy(role => role.Expires);

    /// <summary>Who signs a role: as the root says, or who leaves it targets.</summary>
    public KeyRule RuleOf(RoleState role) =>
        role.Delegation?.Keys ?? Root.Roles[Enum.Parse<TrustRole>(role.Name, ignoreCase: true)];
}
