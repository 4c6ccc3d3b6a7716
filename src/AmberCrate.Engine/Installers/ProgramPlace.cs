using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Installers;

/// <summary>Where a foreign program runs.</summary>
/// <param name="Folder">The folder where it starts, and into which it may write.</param>
/// <param name="SeenAs">Where it sees that folder, when it is confined.</param>
/// <param name="Home">Its home folder.</param>
/// <param name="Temporary">Its folder for temporary files.</param>
/// <param name="Own">The folder that holds those and the program itself. No two programs at a time have the same, and each is
/// known by it.</param>
public sealed record ProgramPlace(string Folder, string SeenAs, string Home, string Temporary, string Own)
{
    /// <summary>The folders that it may write to.</summary>
    public IReadOnlyList<string> Writable =>
        Shared is var (shared, _) ? [Own, Home, Temporary, Folder, shared] : [Own, Home, Temporary, Folder];

    /// <summary>A folder that it may read too; null for none.</summary>
    public string? Visible { get; init; }

    /// <summary>What of that folder is laid over the system.</summary>
    public IReadOnlyList<InsidePath> Mapped { get; init; } = [];

    /// <summary>A folder that it shares with another program, and where both see it; null for none.</summary>
    public (string Folder, string SeenAs)? Shared { get; init; }

    /// <summary>The root of the system that it sees.</summary>
    public string System { get; init; } = "/";

    /// <summary>
    /// Whether it finds the settings of desktops, and itself in the list of users, as programs of a desktop do.
    /// </summary>
    public bool IsDesktop { get; init; }

    /// <summary>Further variables that it gets.</summary>
    public IReadOnlyList<(string Name, string Value)> Variables { get; init; } = [];
}
