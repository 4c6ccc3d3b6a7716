namespace AmberCrate.Engine.Installers;

/// <summary>A foreign program, and how it is started.</summary>
/// <param name="Program">Its path.</param>
/// <param name="Arguments">Its arguments.</param>
public sealed record ProgramCall(string Program, IReadOnlyList<string> Arguments)
{
    /// <summary>Whether a user answers it: it gets a terminal of its own, which is passed on to ours.</summary>
    public bool IsAttended { get; init; }
}
