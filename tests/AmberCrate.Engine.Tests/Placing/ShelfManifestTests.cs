using System.Diagnostics;
using AmberCrate.Engine.Host;
using AmberCrate.Engine.Placing;
using AmberCrate.Tests;

namespace AmberCrate.Engine.Tests.Placing;

public sealed class ShelfManifestTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    [Fact]
    public void A_manifest_is_read_back_and_understood_by_sha256sum()
    {
        var manifest = Fill();
        File.WriteAllText(_folder["app.files"], manifest.Write());
        var again = ShelfManifest.Read(_folder["app.files"]).ShouldNotBeNull();
        again.Files.ShouldBe(manifest.Files);
        (again.Size, again.FaultsIn(_folder["app"], isDeep: true, default).Count).ShouldBe((manifest.Size, 0));
        Sum().ShouldBe(0);
        File.AppendAllText(_folder["app", "bin", "gauze"], "!");
        Sum().ShouldBe(1);
    }

    [Theory]
    [InlineData("rm app/bin/gauze", "bin/gauze is missing", "bin/gauze is missing")]
    [InlineData("echo more >> app/bin/gauze", "bin/gauze has 10 bytes instead of 5", "bin/gauze has 10 bytes instead of 5")]
    [InlineData("printf GAUZE > app/bin/gauze", "", "bin/gauze has another content")]
    [InlineData("rm app/link && ln -s /etc/passwd app/link", "link is not the link that it was",
        "link is not the link that it was")]
    [InlineData("rm app/bin/gauze && ln -s /bin/sh app/bin/gauze", "bin/gauze is a link now", "bin/gauze is a link now")]
    [InlineData("rm app/bin/gauze && mkdir app/bin/gauze", "bin/gauze is not a file any more",
        "bin/gauze is not a file any more")]
    [InlineData("chmod a-x app/bin/gauze", "bin/gauze has lost its permission to be executed",
        "bin/gauze has lost its permission to be executed")]
    [InlineData("chmod u-r app/bin/gauze", "bin/gauze has lost its permission to be read",
        "bin/gauze has lost its permission to be read")]
    [InlineData("chmod g+w app/bin/gauze", "", "")]
    [InlineData("echo > app/new", "", "new was not there when it was installed")]
    [InlineData("rm -rf app && mkdir app",
        "bin/gauze is missing; link is missing; odd name\\ is missing; two\nlines is missing",
        "bin/gauze is missing; link is missing; odd name\\ is missing; two\nlines is missing")]
    public void What_has_changed_is_told(string change, string quick, string deep)
    {
        var manifest = Fill();
        Shell(change);
        string Faults(bool isDeep) => string.Join(
            "; ", manifest.FaultsIn(_folder["app"], isDeep, default).Select(fault => $"{fault.Path} {fault.Fault}"));
        (Faults(false), Faults(true)).ShouldBe((quick, deep));
    }

    [Fact]
    public void A_manifest_from_before_modes_were_noted_is_read_and_says_nothing_of_them()
    {
        var lines = Fill().Write().Split('\n').Where(line => !line.StartsWith("# mode", StringComparison.Ordinal));
        var text = string.Join('\n', lines).Replace("files 2", "files 1", StringComparison.Ordinal);
        File.WriteAllText(_folder["app.files"], text);
        Shell("chmod a-x app/bin/gauze");
        var manifest = ShelfManifest.Read(_folder["app.files"]).ShouldNotBeNull();
        manifest.FaultsIn(_folder["app"], isDeep: true, default).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("")]
    [InlineData("# amber-crate files 3\n")]
    [InlineData("# amber-crate files 2\n# mode 8\n")]
    [InlineData("# amber-crate files 2\n# mode 7777\n")]
    [InlineData("# amber-crate files 1\nnonsense\n")]
    [InlineData("# amber-crate files 1\n# size x\n")]
    [InlineData("# amber-crate files 1\n# size 1\n"
        + "0000000000000000000000000000000000000000000000000000000000000000  ../../etc/passwd\n")]
    public void What_is_no_manifest_is_not_believed(string text)
    {
        File.WriteAllText(_folder["bad.files"], text);
        ShelfManifest.Read(_folder["bad.files"]).ShouldBeNull();
    }

    [Fact]
    public void Equal_files_of_two_versions_share_their_room_and_changed_ones_do_not()
    {
        foreach (var version in new[] { "1", "2" })
        {
            Directory.CreateDirectory(_folder[version]);
            File.WriteAllText(_folder[version, "same"], new string('s', 9000));
            File.WriteAllText(_folder[version, "other"], $"version {version}");
            File.WriteAllText(_folder[version, "edited"], "as it was");
        }

        var (old, now) = (ShelfManifest.Scan(_folder["1"], default), ShelfManifest.Scan(_folder["2"], default));
        File.WriteAllText(_folder["1", "edited"], "by hand  ");
        ShelfSharing.Share(_folder["2"], now, _folder["1"], old).ShouldBe(9000);
        now.FaultsIn(_folder["2"], isDeep: true, default).ShouldBeEmpty();
        File.ReadAllText(_folder["1", "edited"]).ShouldBe("by hand  ");
        DiskRoom.Measure(_folder["1"]).ShouldBeLessThanOrEqualTo(9000 + 18);
        Directory.Delete(_folder["1"], recursive: true);
        now.FaultsIn(_folder["2"], isDeep: true, default).ShouldBeEmpty();
    }

    public void Dispose() => _folder.Dispose();

    private ShelfManifest Fill()
    {
        Directory.CreateDirectory(_folder["app", "bin"]);
        File.WriteAllText(_folder["app", "bin", "gauze"], "gauze");
        File.SetUnixFileMode(_folder["app", "bin", "gauze"], (UnixFileMode)0x1ED);
        File.WriteAllText(_folder["app", "two\nlines"], "2");
        File.WriteAllText(_folder["app", "odd name\\"], "");
        File.CreateSymbolicLink(_folder["app", "link"], "bin/gauze");
        return ShelfManifest.Scan(_folder["app"], default);
    }

    private int Sum() => Shell("cd app && sha256sum --check --quiet ../app.files 2>/dev/null");

    private int Shell(string command)
    {
        using var process = Process.Start(new ProcessStartInfo("/bin/sh", ["-c", command]) { WorkingDirectory = _folder.Path })!;
        process.EndInTime();
        return process.ExitCode;
    }
}
