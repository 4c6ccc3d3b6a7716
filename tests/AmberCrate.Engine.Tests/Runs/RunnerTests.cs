using AmberCrate.Core.Versions;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Runs;
using AmberCrate.Engine.Sessions;

namespace AmberCrate.Engine.Tests.Runs;

public sealed class RunnerTests : IDisposable
{
    private readonly OperationStage _stage = new();

    public void Dispose() => _stage.Dispose();

    [Theory]
    [InlineData(RunStage.Unpacking, false, "Done Done Skipped")]
    [InlineData(RunStage.Unpacking, true, "Done Skipped Skipped")]
    [InlineData(RunStage.Placing, false, "Done Done Skipped")]
    [InlineData(RunStage.Placing, true, "Done Skipped Skipped")]
    public async Task The_first_signal_finishes_the_app_in_hand_and_the_second_puts_it_back(
        RunStage stage, bool twice, string outcomes)
    {
        await _stage.AddGuildAsync();
        _stage.Variables["ACRATE_DOWNLOADS"] = "1";
        using CancellationTokenSource soon = new(), now = new();
        _stage.WhenHappens = happened =>
        {
            if (happened is not RunEvent.StageBegins { Place.Number: 2 } begins || begins.Stage != stage) return;
            soon.Cancel();
            if (twice) now.Cancel();
        };
        var result = await new Install(_stage.Session()).RunAsync(
            [.. new[] { "cue-ledger", "gantry-plot", "truss-tally" }.Select(AppReference.Parse)],
            new InstallRequest(), new RunOptions { IsAgreed = true }, new RunSignals(soon.Token, now.Token));
        string.Join(' ', result.Report!.Items.Select(item => item.Outcome)).ShouldBe(outcomes);
        result.Report.Interrupted.ShouldBeTrue();
        using var station = new RootOpener(_stage.Session()).ToRead();
        var done = outcomes.Split(' ').Count(outcome => outcome == "Done");
        station.Records.Apps().Count.ShouldBe(done);
        station.Records.Intentions().ShouldBeEmpty();
        Directory.GetFileSystemEntries(station.Layout.FrontFolder).Length.ShouldBe(done);
        station.Records.LeftOf(station.Records.RunsNotEnded().First(), station.Apps.Read()).Count.ShouldBe(3 - done);
    }
}
