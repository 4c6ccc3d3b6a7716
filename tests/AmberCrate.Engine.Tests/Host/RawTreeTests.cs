using AmberCrate.Engine.Checking;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Inspecting;
using AmberCrate.Engine.Installing;
using AmberCrate.Engine.Reclaiming;
using AmberCrate.Engine.Removing;
using AmberCrate.Engine.Sessions;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Host;

/// <summary>Folders that somebody else filled are measured and deleted, whatever is in them.</summary>
public sealed class RawTreeTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    public static TheoryData<string> Fillings => ["strange names", "closed folders", "very deep", "links", "pipes", "two names"];

    public void Dispose() => _folder.Dispose();

    [Theory]
    [MemberData(nameof(Fillings))]
    public void It_is_deleted_with_everything_in_it(string filling)
    {
        File.WriteAllText(_folder["beside"], "stays");
        Fill(_folder["full"], filling);
        RawTree.SizeOf(_folder["full"]).ShouldBeGreaterThanOrEqualTo(filling == "links" ? 0 : 3);
        (RawTree.StrangeNameIn(_folder["full"]) is not null).ShouldBe(filling == "strange names");
        RawTree.Delete(_folder["full"]);
        Directory.EnumerateFileSystemEntries(_folder.Path).ShouldHaveSingleItem().ShouldEndWith("/beside");
    }

    [Theory]
    [MemberData(nameof(Fillings))]
    public async Task A_leftover_does_not_stop_another_command(string filling)
    {
        using var stage = new OperationStage();
        await stage.AddGuildAsync();
        var options = new RunOptions { IsAgreed = true };
        await InstallAsync("cue-ledger");
        var shelf = stage["root", ".local", "share", "amber-crate", "shelf"];
        Fill(Path.Combine(shelf, "cue-ledger", ".incoming-1.0.0+any"), filling);
        Fill(Path.Combine(shelf, "no-app"), filling);
        Fill(Path.Combine(stage["root", ".cache", "amber-crate"], "installer-left"), filling);
        using (var station = new RootOpener(stage.Session()).ToRead())
            new Leftovers(station.Layout, station.Records, station.Placing.Shelf).Find().Count.ShouldBeGreaterThanOrEqualTo(2);
        await InstallAsync("gantry-plot");
        Directory.Exists(Path.Combine(shelf, "no-app")).ShouldBeFalse();
        new Reclaim(stage.Session()).Run(options, default).Failed.ShouldBeEmpty();
        (await new CheckMachine(stage.Session()).RunAsync([], false, default)).Findings
            .Where(one => one.Kind == FindingKind.Leftovers).ShouldBeEmpty();
        await new Uninstall(stage.Session()).RunAsync(["cue-ledger"], new Core.Planning.UninstallRequest(), false, options,
            default);
        Directory.Exists(Path.Combine(shelf, "cue-ledger")).ShouldBeFalse();

        async Task InstallAsync(string app) => (await new Install(stage.Session()).RunAsync(
            [Core.Versions.AppReference.Parse(app)], new InstallRequest(), options, default)).Report!.Failures.ShouldBeEmpty();
    }

    /// <summary>A leftover that cannot be deleted, as on a broken disk, is named by check and stops nothing.</summary>
    [Fact]
    public async Task A_leftover_that_cannot_be_deleted_is_a_finding()
    {
        Assert.SkipUnless(Environment.IsPrivilegedProcess, "it takes root to make a file immutable");
        using var stage = new OperationStage();
        await stage.AddGuildAsync();
        var left = stage["root", ".local", "share", "amber-crate", "shelf", "no-app"];
        Directory.CreateDirectory(left);
        File.WriteAllText(Path.Combine(left, "file"), "");
        Assert.SkipUnless(Shell($"chattr +i {left}/file") == 0, "this file system has no immutable files");
        try
        {
            (await new Install(stage.Session()).RunAsync(
                [Core.Versions.AppReference.Parse("cue-ledger")], new InstallRequest(), new RunOptions { IsAgreed = true },
                    default))
                .Report!.Failures.ShouldBeEmpty();
            (await new CheckMachine(stage.Session()).RunAsync([], false, default)).Findings.Select(one => one.Kind)
                .ShouldContain(FindingKind.Leftovers);
        }
        finally
        {
            Shell($"chattr -i {left}/file");
        }
    }

    private static void Fill(string folder, string filling)
    {
        Directory.CreateDirectory(folder);
        File.WriteAllText(Path.Combine(folder, "file"), "abc");
        Shell($"cd '{folder}' && " + filling switch
        {
            "strange names" => "printf x > \"$(printf 'a\\377\\376b')\" && mkdir \"$(printf 'd\\200')\" && "
                + "printf y > \"$(printf 'd\\200/\\n\\033e')\"",
            "closed folders" => "mkdir -p a/b c/d && printf x > a/b/f && chmod 000 a/b a c/d c",
            "very deep" => "perl -e 'for (1..3000) { mkdir \"d\" x 10; chdir \"d\" x 10; } open F, \">end\"'",
            "links" => "ln -s / root && ln -s ../beside up && ln -s . self && rm file",
            "pipes" => "mkfifo pipe && mkdir a && mkfifo a/pipe",
            _ => "ln file other && ln file ../outside && rm ../outside",
        }).ShouldBe(0);
    }

    private static int Shell(string script)
    {
        using var process = System.Diagnostics.Process.Start("/bin/sh", ["-c", script]);
        process.EndInTime();
        return process.ExitCode;
    }
}
