namespace AmberCrate.Cli.Tests;

/// <summary>One sandbox for all tests of a class that only look: both catalogues, and one app installed.</summary>
public sealed class ReadCommandsFixture : IAsyncDisposable
{
    public ReadCommandsFixture() => Sandbox.Run("install", "cue-ledger", "--yes").ShouldEnd(0);

    public Sandbox Sandbox { get; } = Sandbox.WithCatalogues();

    public ValueTask DisposeAsync() => Sandbox.DisposeAsync();
}
