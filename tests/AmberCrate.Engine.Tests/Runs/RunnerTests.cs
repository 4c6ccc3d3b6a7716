using AmberCrate.Core.Cards;
using AmberCrate.Core.Planning;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Catalogues;
using AmberCrate.Engine.Layout;
using AmberCrate.Engine.Operations;
using AmberCrate.Engine.Records;
using AmberCrate.Engine.Runs;
using AmberCrate.Playhouse;

namespace AmberCrate.Engine.Tests.Runs;

public sealed class RunnerTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData(RunStage.Unpacking, false, "Done Done Skipped")]
    [InlineData(RunStage.Unpacking, true, "Done Skipped Skipped")]
    [InlineData(RunStage.Placing, false, "Done Done Skipped")]
    [InlineData(RunStage.Placing, true, "Done Skipped Skipped")]
    public async Task The_first_signal_finishes_the_app_in_hand_and_the_second_puts_it_back(RunStage stage, bool twice, string outcomes)
    {
        World.Shipped.Write("guild", _folder["guild"], withLater: false);
        var settings = new WorkstationSettings(MachineLayout.Under(_folder["root"]), TimeSpan.FromSeconds(10), null, IsOffline: false, _ => null);
        using var station = Workstation.OpenToChange(settings, TimeProvider.System, "a test");
        station.Records.AddCatalogue(new RegisteredCatalogue(CatalogueName.Parse("guild"), _folder["guild"]));
        (await station.RefreshAsync(station.Records.Catalogues(), null, default)).ShouldAllBe(result => result.Problem == null);
        using CancellationTokenSource soon = new(), now = new();
        var plan = new Planner(station.State(), station.Offers()).Install([.. new[] { "cue-ledger", "gantry-plot", "truss-tally" }.Select(AppReference.Parse)]);
        var report = await station.Runner().RunAsync(plan, "acrate install", happened =>
        {
            if (happened is not RunEvent.StageBegins { Place.Number: 2 } begins || begins.Stage != stage) return;
            soon.Cancel();
            if (twice) now.Cancel();
        }, new RunSignals(soon.Token, now.Token), evenOpen: false);
        string.Join(' ', report.Items.Select(item => item.Outcome)).ShouldBe(outcomes);
        report.Interrupted.ShouldBeTrue();
        station.Records.Apps().Count.ShouldBe(outcomes.Split(' ').Count(outcome => outcome == "Done"));
        station.Records.Intentions().ShouldBeEmpty();
        Directory.GetFileSystemEntries(settings.Layout.FrontFolder).Length.ShouldBe(station.Records.Apps().Count);
        station.Records.RunLeft(null)!.Value.Items.Count(item => item.IsLeft).ShouldBe(3 - station.Records.Apps().Count);
    }
}
