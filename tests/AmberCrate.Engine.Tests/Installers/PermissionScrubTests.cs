using AmberCrate.Core.Machine;
using AmberCrate.Engine.Installers;
using AmberCrate.Engine.SystemCalls;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Installers;

/// <summary>What an installer leaves: links that lead out are removed and named, and strange names are refused.</summary>
public sealed class PermissionScrubTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData("link", "file", true)]
    [InlineData("link", "sub/file", true)]
    [InlineData("link", "./sub/../file", false)]
    [InlineData("link", "/etc/shadow", false)]
    [InlineData("link", "../../../etc/shadow", false)]
    [InlineData("link", "..", false)]
    [InlineData("link", "/usr/bin/env", true)]
    [InlineData("link", "/usr/../etc/shadow", false)]
    [InlineData("link", "/apps/gantry/1.0/bin/run", true)]
    [InlineData("link", "/apps/gantry/1.0", true)]
    [InlineData("link", "/apps/gantry/1.01/run", false)]
    [InlineData("sub/link", "../file", true)]
    [InlineData("sub/link", "../../file", false)]
    [InlineData("sub/deep/link", "../../file", true)]
    [InlineData("sub/deep/link", "../../../file", false)]
    [InlineData("sub/link", "self/..", false)]
    public void A_link_stays_only_if_it_stays_inside(string path, string target, bool stays)
    {
        Directory.CreateDirectory(_folder["app", "sub", "deep"]);
        File.WriteAllText(_folder["app", "file"], "");
        var link = Path.Combine(_folder["app"], path);
        File.CreateSymbolicLink(link, target);
        PermissionScrub.Tame(_folder["app"], "/apps/gantry/1.0").ShouldBe(stays ? [] : [$"{path} -> {target}"]);
        (Posix.LinkAt(link) is not null).ShouldBe(stays);
    }

    [Fact]
    public void A_name_that_is_not_text_is_refused()
    {
        Directory.CreateDirectory(_folder["app"]);
        using var shell = System.Diagnostics.Process.Start(
            "/bin/sh", ["-c", $"cd '{_folder["app"]}' && : > \"$(printf 'a\\377b')\""]);
        shell.EndInTime();
        Should.Throw<RefusedEntryException>(() => PermissionScrub.Tame(_folder["app"], "/apps")).Message
            .ShouldBe("a name that is not UTF-8, \"a\\xffb\"");
    }

    /// <summary>fallocate(2) gives a file blocks beyond its end, which its length does not show.</summary>
    [Fact]
    public void Blocks_beyond_the_end_of_a_file_count()
    {
        // A file system in memory knows fallocate(2) everywhere.
        var memory = Directory.CreateDirectory($"/dev/shm/acrate-{Guid.NewGuid():N}").FullName;
        using var removed = new Removed(memory);
        File.WriteAllBytes(Path.Combine(memory, "file"), []);
        using var allocate = System.Diagnostics.Process.Start(
            "/usr/bin/fallocate", ["--keep-size", "--length", "8MiB", Path.Combine(memory, "file")]);
        allocate.EndInTime();
        Assert.SkipUnless(allocate.ExitCode == 0, "this file system allocates nothing ahead");
        var limits = new ProgramLimits(TimeSpan.FromSeconds(1), 4 << 20, [memory]);
        new ProgramUsage(limits, Environment.ProcessId).FolderExcess().ShouldBe("it has written more than 4.0 MiB");
        new ProgramUsage(limits with { Bytes = 16 << 20 }, Environment.ProcessId).FolderExcess().ShouldBeNull();
    }

    private sealed class Removed(string folder) : IDisposable
    {
        public void Dispose() => Directory.Delete(folder, recursive: true);
    }
}
