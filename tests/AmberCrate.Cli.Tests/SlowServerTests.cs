using AmberCrate.Playhouse;
using AmberCrate.Tests;

namespace AmberCrate.Cli.Tests;

/// <summary>A server that stalls keeps the command that asks it waiting, and no other.</summary>
public sealed class SlowServerTests : IAsyncLifetime
{
    private Sandbox _sandbox = null!;

    public async ValueTask InitializeAsync() => _sandbox = await Sandbox.WithServedGuildAsync();

    public ValueTask DisposeAsync() => _sandbox.DisposeAsync();

    [Theory]
    [InlineData("catalogue", "refresh", "guild")]
    [InlineData("catalogue", "add", "more", "SERVER", "--trust", "site/root.json")]
    [InlineData("install", "gantry-plot", "--yes")]
    [InlineData("equip", "a.bundle.toml", "--yes")]
    public async Task Others_can_change_the_machine_while_a_server_stalls(params string[] command)
    {
        File.WriteAllText(
            _sandbox["a.bundle.toml"],
            $"bundle = 1\n[[catalogues]]\nname = \"more\"\nlocation = \"{_sandbox.Server.Address}\"\n"
                + $"root_sha256 = \"{Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(
                    File.ReadAllBytes(_sandbox["site", "root.json"])))}\"\n[[apps]]\nreference = \"guild:gantry-plot\"\n");
        var asked = command[0] == "install" ? ".tar.gz" : "timestamp.json";
        _sandbox.Server.Faults[asked] = new ServerFault.Stall();
        _sandbox.Server.Requests.Clear();
        using var slow = _sandbox.Start([.. command.Select(
            word => word == "SERVER" ? _sandbox.Server.Address.ToString() : word)]);
        for (var tries = 0; !_sandbox.Server.Requests.Any(one => one.Path.EndsWith(asked, StringComparison.Ordinal)); tries++)
        {
            tries.ShouldBeLessThan(400);
            slow.HasExited.ShouldBeFalse();
            await Task.Delay(25, TestContext.Current.CancellationToken);
        }

        // The run gives the lock up once the server has made it wait; the other command waits for that.
        _sandbox.Variables["ACRATE_WAIT"] = "60";
        _sandbox.Run("pin", "cue-ledger@1.x", "--reason", "a test").ShouldExitWith(0);
        slow.HasExited.ShouldBeFalse();
        slow.Kill();
        await slow.EndInTimeAsync();
    }
}
