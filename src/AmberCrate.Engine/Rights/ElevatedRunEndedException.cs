namespace AmberCrate.Engine.Rights;

/// <summary>
/// The command has been carried out by another process with more rights; nothing is left to do here but to end as it did.
/// </summary>
/// <param name="exitCode">With what that process ended.</param>
public sealed class ElevatedRunEndedException(int exitCode) : Exception($"a process with more rights has ended with {exitCode}")
{
    /// <summary>With what that process ended.</summary>
    public int ExitCode { get; } = exitCode;
}
