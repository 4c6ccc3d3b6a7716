using AmberCrate.Core.Values;

namespace AmberCrate.Engine.Sessions;

/// <summary>How the program was called, as far as every operation needs to know.</summary>
public sealed record CallRequest
{
    /// <summary>The folder under which everything is kept; null for the user's own folders, or the machine's.</summary>
    public string? Root { get; init; }

    /// <summary>Whether the root was given on the command line, so that commands that are suggested must carry it too.</summary>
    public bool IsRootGiven { get; init; }

    /// <summary>Whose apps the call is about.</summary>
    public InstallScope Scope { get; init; }

    /// <summary>Whether the network may not be used.</summary>
    public bool IsOffline { get; init; }

    /// <summary>Whether data of signed catalogues are used that have expired.</summary>
    public bool AcceptsStale { get; init; }

    /// <summary>The command as it was typed, for records and the lock.</summary>
    public string CommandLine { get; init; } = "acrate";

    /// <summary>Reads an option by its name, for settings; null where it was not given.</summary>
    public Func<string, string?> Option { get; init; } = _ => null;
}
