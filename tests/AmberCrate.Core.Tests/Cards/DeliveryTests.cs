using System.Security.Cryptography;
using System.Text;
using AmberCrate.Core.Cards;
using AmberCrate.Core.Machine;
using AmberCrate.Core.Values;

namespace AmberCrate.Core.Tests.Cards;

/// <summary>Releases that come in several files for a platform.</summary>
public sealed class DeliveryTests
{
    private static readonly string[] Digests =
        [.. "abcde".Select(letter => Convert.ToHexStringLower(SHA256.HashData([(byte)letter])))];

    [Fact]
    public void A_machine_gets_all_files_of_its_best_platform_in_the_order_of_the_card()
    {
        var release = Release(
            ("any-linux-any", "data", 1), ("x86_64-linux-gnu", "program", 2), ("aarch64-linux-gnu", "other", 3),
            ("x86_64-linux-gnu", "library", 4)).Releases[0];
        Names(release.DeliveryFor(Platform.Parse("x86_64-linux-gnu"))).ShouldBe("program library");
        Names(release.DeliveryFor(Platform.Parse("riscv64-linux-gnu"))).ShouldBe("data");
        release.Deliveries.Select(Names).ShouldBe(["data", "program library", "other"]);
        var delivery = release.DeliveryFor(Platform.Parse("x86_64-linux-gnu"))!;
        (delivery.DownloadSize, delivery.InstalledSize).ShouldBe((6, null));
        release.DeliveryFor(delivery.Platform, delivery.Sha256).ShouldBe(delivery);
        release.DeliveryFor(delivery.Platform, delivery.Files[0].Sha256).ShouldBeNull();
    }

    [Fact]
    public void Several_files_have_the_digest_of_their_digests_and_one_file_has_its_own()
    {
        var several = Release(("any-linux-any", "a", 1), ("any-linux-any", "b", 1)).Releases[0].Deliveries.Single();
        several.Sha256.Hex.ShouldBe(Convert.ToHexStringLower(SHA256.HashData(
            Encoding.ASCII.GetBytes($"{several.Files[0].Sha256.Hex}\n{several.Files[1].Sha256.Hex}\n"))));
        new Delivery([.. several.Files.Reverse()]).Sha256.ShouldNotBe(several.Sha256, "the order decides what is unpacked");
        new Delivery([several.Files[0]]).Sha256.ShouldBe(several.Files[0].Sha256);
    }

    [Theory]
    [InlineData("installer", "tar.gz", "format: expected an installer to be the only artifact for any-linux-any")]
    [InlineData("tar.gz", "installer", "format: expected an installer to be the only artifact for any-linux-any")]
    [InlineData("appimage", "appimage", "format: expected one AppImage at most for any-linux-any")]
    [InlineData("executable", "file", "filename: expected each file name once for any-linux-any, found \"a\" again")]
    public void Files_that_cannot_be_put_together_are_faults(string first, string second, string expected) =>
        CardSamples.FaultsOf(Text(("any-linux-any", "x/a", 1, first), ("any-linux-any", "y/a", 1, second)))
            .ShouldContain(fault => fault.Contains($"artifacts[2].{expected}", StringComparison.Ordinal));

    [Fact]
    public void The_same_file_twice_is_a_fault()
    {
        var twice = Text(("any-linux-any", "a", 1, "tar"), ("any-linux-any", "b", 1, "tar")).Replace(Digests[1], Digests[0]);
        CardSamples.FaultsOf(twice).ShouldHaveSingleItem()
            .ShouldContain("artifacts[2].sha256: expected each file once for any-linux-any");
    }

    [Fact]
    public void The_record_of_an_app_keeps_all_its_files_and_that_of_one_file_is_as_it_was()
    {
        var one = Planning.FixedOffers.Installed("a 1 guild");
        InstalledAppJson.Write(one).ShouldNotContain("several_files");
        one.Files.ShouldBe([new DeliveredFile(one.Source, one.Sha256)]);
        List<DeliveredFile> files = [.. Digests.Take(2).Select(
            digest => new DeliveredFile($"/x/{digest[..2]}", Sha256Digest.Parse(digest)))];
        var several = one with { SeveralFiles = files, Sha256 = Delivery.Combine([.. files.Select(file => file.Sha256)]) };
        InstalledAppJson.Read(InstalledAppJson.Write(several)).Files.ShouldBe(files);
    }

    private static string Names(Delivery? delivery) =>
        string.Join(' ', delivery?.Files.Select(file => file.Location.FileName) ?? ["none"]);

    private static AppCard Release(params (string Platform, string Name, int Size)[] files) =>
        CardSamples.Read(Text([.. files.Select(file => (file.Platform, file.Name, file.Size, "tar"))]));

    private static string Text(params (string Platform, string Name, int Size, string Format)[] files) =>
        CardSamples.Text("scrim") + """

        [[releases]]
        version = "1.0"
        date = 2026-01-01

        """ + string.Concat(files.Select((file, at) => $"""

        [[releases.artifacts]]
        platform = "{file.Platform}"
        location = "files/{file.Name}"
        format = "{file.Format}"
        sha256 = "{Digests[at]}"
        download_size = {file.Size}
        {(file.Format == "installer" ? "installer = { arguments = [\"{folder}\"] }" : "")}

        """));
}
