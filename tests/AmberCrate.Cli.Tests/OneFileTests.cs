using System.Diagnostics;

namespace AmberCrate.Cli.Tests;

/// <summary>The native executable on a system that has nothing but the loader, libc, libm and a shell.</summary>
public sealed class OneFileTests
{
    private static readonly string[] Libraries = ["ld-linux-x86-64.so.2", "ld-linux-aarch64.so.1", "libc.so.6", "libm.so.6"];
    private static readonly string[] LibraryFolders = ["/lib64", "/lib", "/lib/x86_64-linux-gnu", "/lib/aarch64-linux-gnu"];

    [Fact]
    public async Task It_does_its_work_on_a_bare_system()
    {
        if (File.Exists(Path.ChangeExtension(Sandbox.Program, ".dll"))) Assert.Skip("this is not the native build");
        if (!File.Exists("/usr/bin/bwrap")) Assert.Skip("bwrap is not here");
        await using var sandbox = new Sandbox();
        if (Bare(sandbox, "--version").ExitCode == -1) Assert.Skip("bwrap does not work here");
        sandbox.Run("catalogue", "build", "guild", "site", "--with-artifacts").ShouldEnd(0);
        Bare(sandbox, "--version").Out.ShouldBe("acrate 0.1.0\n");
        Bare(sandbox, "catalogue", "add", "guild", "site", "--unsigned").Out.ShouldStartWith("Added guild: ");
        Bare(sandbox, "search", "rigging").Out.ShouldContain("gantry-plot");
        Bare(sandbox, "install", "gantry-plot", "scrim-paint@4.1.x", "dimmer-desk", "cue-ledger", "--yes").Out.ShouldContain(
            "\n4 done.\n");
        Bare(sandbox, "install", "scrim-paint@4.2.x", "--yes").Out.ShouldContain("\n1 done.\n");
        Bare(sandbox, "upgrade", "--yes").Out.ShouldContain("Nothing to do");
        Bare(sandbox, "export", "-o", "a.bundle.toml").Out.ShouldStartWith("Wrote 4 apps from 1 catalogue to ");
        sandbox.Root = "other";
        Bare(sandbox, "equip", "a.bundle.toml", "--yes", "--unsigned").Out.ShouldContain("\n4 done.\n");
        Bare(sandbox, "catalogue", "add", "far", "https://127.0.0.1:9/").ShouldFail(6, """
            acrate: https://127.0.0.1:9/root.json cannot be reached
              why: this machine has no CA certificates, so it cannot check whether a server is genuine; the catalogue has not been added
              next: install the package ca-certificates, or name a file with certificates in SSL_CERT_FILE
            """);
    }

    private static Result Bare(Sandbox sandbox, params string[] arguments)
    {
        List<string> words =
        [
            "--unshare-net", "--proc", "/proc", "--dev", "/dev", "--bind", sandbox.Folder, sandbox.Folder, "--chdir",
            sandbox.Folder,
        ];
        foreach (var folder in LibraryFolders)
        {
            foreach (var file in Libraries.Select(library => Path.Combine(folder, library)).Where(File.Exists))
                words.AddRange(["--ro-bind", file, file]);
        }

        words.AddRange(["--ro-bind", "/bin/sh", "/bin/sh", "--ro-bind", Sandbox.Program, "/acrate", "--clearenv"]);
        words.AddRange(
            ["--setenv", "HOME", sandbox["home"], "--setenv", "ACRATE_ROOT", sandbox[sandbox.Root], "--setenv", "PATH", "/bin"]);
        var start = new ProcessStartInfo("/usr/bin/bwrap", [.. words, "/acrate", .. arguments])
        {
            RedirectStandardInput = true, RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false,
        };
        using var process = Process.Start(start)!;
        var result = sandbox.Finish(process, arguments);
        return result.Error.StartsWith("bwrap:", StringComparison.Ordinal) ? result with { ExitCode = -1 } : result;
    }
}
