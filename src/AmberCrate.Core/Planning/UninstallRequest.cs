namespace AmberCrate.Core.Planning;

/// <summary>Options of an uninstall.</summary>
public sealed record UninstallRequest
{
    /// <summary>Whether the apps that need them go too.</summary>
    public bool AndNeededBy { get; init; }

    /// <summary>Whether dependencies go too that no app needs any more.</summary>
    public bool AndUnneeded { get; init; }
}
