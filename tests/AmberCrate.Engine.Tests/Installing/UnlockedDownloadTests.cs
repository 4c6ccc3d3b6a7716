using AmberCrate.Core.Problems;
using AmberCrate.Core.Runs;
using AmberCrate.Core.Values;
using AmberCrate.Core.Versions;
using AmberCrate.Engine.Cataloguing;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Sessions;
using AmberCrate.Engine.Tests.Trust;
using AmberCrate.Playhouse;

namespace AmberCrate.Engine.Tests.Installing;

/// <summary>A slow server keeps no other command waiting: nothing is downloaded under the lock.</summary>
public sealed class UnlockedDownloadTests : IAsyncLifetime
{
    private static readonly RunOptions Agreed = new() { IsAgreed = true };

    private readonly SignedStage _signed = new();
    private StaticServer _server = null!;

    public async ValueTask InitializeAsync()
    {
        Stage.Variables["ACRATE_WAIT"] = "60";
        await _signed.PublishAsync();
        _server = await StaticServer.StartAsync(Stage["site"]);
        await Stage.AddGuildAsync();
        await AddAsync("far");
    }

    public async ValueTask DisposeAsync()
    {
        await _server.DisposeAsync();
        _signed.Dispose();
    }

    private OperationStage Stage => _signed.Stage;

    [Fact]
    public async Task Others_can_change_the_machine_while_a_run_waits_for_a_server()
    {
        _server.Faults[".tar.gz"] = new ServerFault.Stall();
        using var stop = new CancellationTokenSource();
        var slow = InstallAsync("far:gantry-plot", stop.Token);
        await WaitForStallAsync(".tar.gz");
        (await InstallAsync("guild:cue-ledger")).Report!.Failures.ShouldBeEmpty();
        slow.IsCompleted.ShouldBeFalse();
        await stop.CancelAsync();
        (await slow).Report!.Items.ShouldHaveSingleItem().Outcome.ShouldBe(Outcome.Skipped);
    }

    [Fact]
    public async Task A_run_does_not_go_on_with_a_plan_that_another_command_has_outdated()
    {
        _server.Faults[".tar.gz"] = new ServerFault.First(1, new ServerFault.Slow(200));
        var slow = InstallAsync("far:gantry-plot");
        await WaitForStallAsync(".tar.gz");
        (await InstallAsync("guild:cue-ledger")).Report!.Failures.ShouldBeEmpty();
        var report = (await slow).Report!;
        var item = report.Items.ShouldHaveSingleItem();
        (item.Outcome, item.Problem!.Code, item.Problem.What).ShouldBe(
            (Outcome.Failed, ProblemCode.Locked, "another command changed this machine during the download"));
        using var station = new RootOpener(Stage.Session()).ToRead();
        station.Apps.Read().Apps.ShouldHaveSingleItem().Id.Text.ShouldBe("cue-ledger");
    }

    /// <summary>Waits until the server was asked. The next run waits until the slow one has released the lock.</summary>
    private async Task WaitForStallAsync(string ending)
    {
        for (var tries = 0; !_server.Requests.Any(request => request.Path.EndsWith(ending, StringComparison.Ordinal)); tries++)
        {
            tries.ShouldBeLessThan(400, "the server was never asked");
            await Task.Delay(25, TestContext.Current.CancellationToken);
        }
    }

    private Task<Engine.Catalogues.RefreshResult> AddAsync(string name, CancellationToken cancel = default) =>
        new AddCatalogue(Stage.Session()).RunAsync(
            new AddCatalogueRequest(CatalogueName.Parse(name), _server.Address.ToString()) { Trust = _signed.Root.Hex },
            cancel);

    private Task<RunResult> InstallAsync(string reference, CancellationToken cancel = default) =>
        new Install(Stage.Session()).RunAsync(
            [AppReference.Parse(reference)], new InstallRequest(), Agreed, new Engine.Runs.RunSignals(cancel, cancel));
}
