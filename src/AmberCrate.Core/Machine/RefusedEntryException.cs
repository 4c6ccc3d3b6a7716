namespace AmberCrate.Core.Machine;

/// <summary>An archive is whole, and holds something that is not accepted.</summary>
/// <param name="what">What it holds, as the words after "it holds".</param>
public sealed class RefusedEntryException(string what) : Exception(what);
