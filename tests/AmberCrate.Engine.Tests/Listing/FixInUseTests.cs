using AmberCrate.Core.Machine;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Due;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Tests.Listing;

/// <summary>A security fix for an app that is in use does not come before the app is closed.</summary>
public sealed class FixInUseTests : IDisposable
{
    private readonly OperationStage _stage = new();

    [Theory]
    [InlineData("flyrope-terminal", true)]
    [InlineData("cue-ledger", false)]
    public async Task It_counts_as_held_back(string app, bool isFix)
    {
        await _stage.AddGuildAsync();
        await new Install(_stage.Session()).RunAsync(
            [AppReference.Parse(app)], new InstallRequest(), new RunOptions { IsAgreed = true },
            new RunSignals(default, default));
        _stage.PublishLater();
        await new RefreshCatalogues(_stage.Session()).RunAsync([], default);
        var entry = (await new ListDue(_stage.Session()).RunAsync([], null, default)).Entries.ShouldHaveSingleItem();
        (entry.Entry.IsSecurity, entry.IsInUse, entry.IsFixHeldBack).ShouldBe((isFix, false, false));
        var used = entry with { Marks = [.. entry.Marks, AppMark.InUse] };
        (used.IsInUse, used.IsFixHeldBack).ShouldBe((true, isFix));
    }

    public void Dispose() => _stage.Dispose();
}
