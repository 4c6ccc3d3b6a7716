namespace AmberCrate.Engine.Fetching;

/// <summary>Every address of a file has been tried, and has failed.</summary>
/// <param name="fault">The failure of all of them together.</param>
public sealed class SourcesFailedException(SourceFault fault) : Exception(fault.Problem.What)
{
    /// <summary>The failure of all of them together.</summary>
    public SourceFault Fault { get; } = fault;
}
