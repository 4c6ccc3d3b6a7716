using System.Formats.Tar;
using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Archives;
using AmberCrate.Engine.Fetching;
using AmberCrate.Playhouse;

namespace AmberCrate.Engine.Tests.Archives;

public sealed class UnpackerTests : IDisposable
{
    private readonly TemporaryFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Theory]
    [InlineData("tar")]
    [InlineData("tar.gz")]
    [InlineData("tar.zst")]
    [InlineData("tar.xz")]
    [InlineData("tar.bz2")]
    [InlineData("zip")]
    [InlineData("7z")]
    [InlineData("deb")]
    public async Task Every_form_is_unpacked_without_its_leading_folder(string format)
    {
        var big = new byte[300_000];
        new Random(7).NextBytes(big);
        await UnpackAsync(format, ArtifactForge.Pack(format, "top-1.0",
        [
            PackedFile.Program("bin/tool", "#!/bin/sh\n"), new PackedFile("share/big", big, false), PackedFile.Plain("empty", ""),
        ]), strip: 1);
        _folder.Tree("out").ShouldBe(["bin", "bin/tool", "empty", "share", "share/big"]);
        File.ReadAllBytes(_folder["out", "share", "big"]).ShouldBe(big);
        Mode("bin/tool").ShouldBe("755");
        Mode("share/big").ShouldBe("644");
    }

    [Fact]
    public async Task A_single_executable_is_made_executable()
    {
        await UnpackAsync("executable", Encoding.UTF8.GetBytes("#!/bin/sh\n"), strip: 0);
        _folder.Tree("out").ShouldBe(["artifact"]);
        Mode("artifact").ShouldBe("755");
    }

    [Fact]
    public async Task Links_folders_and_modes_are_kept_within_bounds()
    {
        await UnpackAsync("tar.gz", ArtifactForge.Gzip(ArtifactForge.Tar(
        [
            new PaxTarEntry(TarEntryType.Directory, "lib/") { Mode = (UnixFileMode)0x1FF },
            Entry("lib/a.so.1", "library", "666"),
            new PaxTarEntry(TarEntryType.SymbolicLink, "lib/a.so") { LinkName = "a.so.1" },
            new PaxTarEntry(TarEntryType.HardLink, "lib/b.so") { LinkName = "lib/a.so.1" },
            Entry("locked", "x", "000"),
        ])), strip: 0);
        _folder.Tree("out").ShouldBe(["lib", "lib/a.so -> a.so.1", "lib/a.so.1", "lib/b.so", "locked"]);
        (Mode("lib"), Mode("lib/a.so.1"), Mode("locked")).ShouldBe(("755", "644", "600"));
        File.ReadAllText(_folder["out", "lib", "b.so"]).ShouldBe("library");
    }

    public static TheoryData<string, string> Hostile() => new()
    {
        { "climbing", "climbs out" },
        { "absolute", "absolute name" },
        { "link-out", "a link that leaves" },
        { "link-absolute", "a link that leaves" },
        { "through-link", "leads through a link" },
        { "hard-link-out", "climbs out" },
        { "device", "a device or another special entry" },
        { "pipe", "a device or another special entry" },
        { "setuid", "another user's rights" },
        { "file-as-folder", "below a file" },
        { "file-over-folder", "a file where a folder is" },
        { "long-name", "a name of more than 255 bytes" },
        { "bomb", "more than 64.0 MiB, from a file of " },
        { "twice", "two entries that go to the same place" },
    };

    [Theory]
    [MemberData(nameof(Hostile))]
    public async Task What_would_leave_or_overwrite_is_refused(string kind, string says)
    {
        TarEntry[] entries = kind switch
        {
            "climbing" => [Entry("../escaped", "x")],
            "absolute" => [Entry("/tmp/acrate-escaped", "x")],
            "link-out" => [new PaxTarEntry(TarEntryType.SymbolicLink, "a") { LinkName = "../.." }],
            "link-absolute" => [new PaxTarEntry(TarEntryType.SymbolicLink, "a") { LinkName = "/etc" }],
            "through-link" =>
            [
                new PaxTarEntry(TarEntryType.Directory, "d/"),
                new PaxTarEntry(TarEntryType.SymbolicLink, "a") { LinkName = "d" }, Entry("a/b", "x"),
            ],
            "hard-link-out" => [new PaxTarEntry(TarEntryType.HardLink, "a") { LinkName = "../../etc/passwd" }],
            "device" => [new PaxTarEntry(TarEntryType.CharacterDevice, "null") { DeviceMajor = 1, DeviceMinor = 3 }],
            "pipe" => [new PaxTarEntry(TarEntryType.Fifo, "pipe")],
            "setuid" => [Entry("su", "x", "4755")],
            "file-as-folder" => [Entry("a", "x"), Entry("a/b", "x")],
            "file-over-folder" => [Entry("a/b", "x"), Entry("a", "x")],
            "long-name" => [Entry(new string('n', 300), "x")],
            "bomb" => [Entry("zeros", new string('0', 67_200_000))],
            _ => [Entry("a", "x"), Entry("a", "y")],
        };
        var problem = (await Should.ThrowAsync<ProblemException>(
            () => UnpackAsync("tar.gz", ArtifactForge.Gzip(ArtifactForge.Tar(entries)), 0))).Problem;
        (problem.Code, problem.What).ShouldBe((ProblemCode.NotVerified, "the archive is not accepted"));
        problem.Why.ShouldContain(says);
        _folder.Tree().ShouldNotContain(path => path.Contains("escaped", StringComparison.Ordinal));
        File.Exists("/tmp/acrate-escaped").ShouldBeFalse();
    }

    [Theory]
    [InlineData("tar.gz")]
    [InlineData("tar.zst")]
    [InlineData("tar.xz")]
    [InlineData("tar.bz2")]
    [InlineData("zip")]
    [InlineData("7z")]
    [InlineData("deb")]
    public async Task A_damaged_archive_is_said_to_be_damaged(string format)
    {
        var noise = new byte[20_000];
        new Random(3).NextBytes(noise);
        var whole = ArtifactForge.Pack(format, "top", [new PackedFile("noise", noise, false)]);
        foreach (var bytes in new[] { whole[..(whole.Length / 2)], whole[..10], Encoding.UTF8.GetBytes(
            "this is no archive at all, whatever its name says") })
        {
            var problem = (await Should.ThrowAsync<ProblemException>(() => UnpackAsync(format, bytes, 1))).Problem;
            (problem.Code, problem.What).ShouldBe((ProblemCode.NotVerified, "the archive is damaged"));
        }
    }

    [Fact]
    public async Task A_package_for_the_system_keeps_its_links_inside_and_gives_nobody_other_rights()
    {
        await UnpackAsync("deb", ArtifactForge.Deb(ArtifactForge.Gzip([]), XzEncoder.Encode(ArtifactForge.Tar(
        [
            Entry("./usr/bin/tool", "x", "4755"),
            new PaxTarEntry(TarEntryType.SymbolicLink, "./usr/share/tool/run") { LinkName = "/usr/bin/tool" },
        ]))), 0);
        _folder.Tree("out").ShouldContain("usr/share/tool/run -> ../../../usr/bin/tool");
        Mode("usr/bin/tool").ShouldBe("755");
    }

    [Theory]
    [InlineData("zip", "tar.gz", "the archive is not a tar.gz", "it begins like a zip file")]
    [InlineData("tar.gz", "deb", "the archive is not a deb", "it begins like a gzip file")]
    [InlineData("tar.gz", "tar", "the archive is not a tar", "it begins like a gzip file")]
    [InlineData("tar", "zip", "the archive is not a zip", "it begins like a tar archive")]
    [InlineData("executable", "appimage", "the archive is not an appimage", "it begins like a script")]
    public async Task A_wrong_form_is_named(string made, string stated, string what, string why)
    {
        var problem = (await Should.ThrowAsync<ProblemException>(
            () => UnpackAsync(stated, ArtifactForge.Pack(made, "top", [PackedFile.Program("a", "#!/bin/sh\n")]), 0))).Problem;
        (problem.What, problem.Why).ShouldBe((what, why));
    }

    [Fact]
    public async Task An_AppImage_is_kept_whole_beside_its_launcher()
    {
        byte[] image = [0x7F, (byte)'E', (byte)'L', (byte)'F', 2, 1, 1, 0, (byte)'A', (byte)'I', 2, .. new byte[500]];
        await UnpackAsync("appimage", image, 0);
        _folder.Tree("out").ShouldBe(["artifact", "start"]);
        (Mode("artifact"), Mode("start")).ShouldBe(("755", "755"));
        File.ReadAllText(_folder["out", "start"]).ShouldEndWith("exec \"$here/artifact\" \"$@\"\n");
    }

    [Fact]
    public async Task An_archive_of_which_nothing_is_left_is_refused() =>
        (await Should.ThrowAsync<ProblemException>(() => UnpackAsync(
            "tar.gz",
            ArtifactForge.Pack("tar.gz", "top", [PackedFile.Plain("a", "x")]),
            2))).Problem.Why.ShouldContain("nothing is left");

    private static PaxTarEntry Entry(string name, string content, string mode = "644") => new(TarEntryType.RegularFile, name)
    {
        DataStream = new MemoryStream(Encoding.UTF8.GetBytes(content)),
        Mode = (UnixFileMode)Convert.ToInt32(mode, 8),
    };

    private string Mode(string path) => Convert.ToString((int)File.GetUnixFileMode(_folder["out", path]), 8);

    private async Task UnpackAsync(string format, byte[] bytes, int strip)
    {
        var artifact = new Artifact
        {
            Platform = Platform.Parse("any-linux-any"), Location = ArtifactLocation.Parse("files/artifact"),
            Format = CardWords.Formats.Read(format),
            Sha256 = Sha256Digest.FromBytes(SHA256.HashData(bytes)), DownloadSize = bytes.Length,
            InstalledSize = format == "tar.gz" ? 1 : null, StripFolders = strip,
        };
        var file =
            await VerifiedFile.ReceiveAsync(
                new MemoryStream(bytes), _folder[$"artifact"], bytes.Length, artifact.Sha256, default);
        if (Directory.Exists(_folder["out"])) Directory.Delete(_folder["out"], recursive: true);
        Directory.CreateDirectory(_folder["out"]);
        Unpacker.Unpack(PresentFile.FromVerified(file), artifact, _folder["out"], default);
    }
}
