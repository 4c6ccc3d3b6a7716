using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Installing;

/// <summary>How apps are installed.</summary>
public sealed record InstallRequest
{
    /// <summary>Whether apps that are installed are put on again.</summary>
    public bool IsAgain { get; init; }

    /// <summary>Whether a user answers the installers on the terminal.</summary>
    public bool IsAttended { get; init; }

    /// <summary>Their platform; null for the machine's own.</summary>
    public Platform? Platform { get; init; }
}
