namespace AmberCrate.Engine.Tests.Fuzz;

/// <summary>Tests that measure memory, and so run while no others do.</summary>
[CollectionDefinition(nameof(Alone), DisableParallelization = true)]
public sealed class Alone;
