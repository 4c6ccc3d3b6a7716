namespace AmberCrate.Cli.Tests;

/// <summary>The executable for arm64, run by qemu.</summary>
public sealed class OtherArchitectureTests
{
    private const string Emulator = "/usr/bin/qemu-aarch64";

    [Fact]
    public async Task The_executable_for_arm64_does_its_work()
    {
        var program = Path.Combine(BuiltProgram.Repository, "artifacts", "native-arm64", "acrate");
        if (!File.Exists(program)) Assert.Skip("there is none: eng/publish artifacts/native-arm64 arm64 makes it");
        if (!File.Exists(Emulator)) Assert.Skip("qemu-user is not here");
        await using var sandbox = new Sandbox();
        Run("--version").ShouldPrint(0, "acrate 0.1.0");
        Run("catalogue", "add", "guild", "guild").ShouldEnd(0).Out.ShouldStartWith("Added guild: ");
        Run("search", "rigging").ShouldEnd(0).Out.ShouldContain("gantry-plot");
        Run("install", "gantry-plot", "scrim-paint@4.1.x", "dimmer-desk", "cue-ledger", "--yes").ShouldEnd(0).Out.ShouldContain(
            "\n4 done.\n");
        sandbox.RunInstalled("scrim-paint", "--version").ShouldBe("Scrim Paint 4.1.2\n");
        sandbox.PublishLater();
        Run("catalogue", "refresh").ShouldEnd(0);
        Run("upgrade", "--yes").ShouldEnd(0).Out.ShouldContain("done       cue-ledger 1.6.0\n");
        Run("export", "-o", "a.bundle.toml").ShouldEnd(0).Out.ShouldStartWith("Wrote 4 apps from 1 catalogue to ");
        sandbox.Root = "other";
        Run("equip", "a.bundle.toml", "--unsigned", "--yes").ShouldEnd(0).Out.ShouldContain("\n4 done.\n");
        Run("uninstall", "gantry-plot", "--yes").ShouldEnd(0);
        sandbox.Run("list", "--json").ShouldEnd(0).Json.GetProperty("apps").GetArrayLength().ShouldBe(3, "ours reads theirs");

        Result Run(params string[] arguments) => sandbox.RunBy(Emulator, ["-L", "/", program, .. arguments]);
    }
}
