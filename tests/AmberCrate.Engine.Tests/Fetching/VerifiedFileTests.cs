using System.Security.Cryptography;
using AmberCrate.Core.Problems;
using AmberCrate.Core.Values;
using AmberCrate.Engine.Fetching;

namespace AmberCrate.Engine.Tests.Fetching;

public sealed class VerifiedFileTests : IDisposable
{
    private static readonly byte[] Bytes = [.. Enumerable.Range(0, 1000).Select(number => (byte)number)];
    private static readonly Sha256Digest Digest = Sha256Digest.FromBytes(SHA256.HashData(Bytes));
    private readonly TemporaryFolder _folder = new();

    public void Dispose() => _folder.Dispose();

    [Fact]
    public async Task What_arrives_whole_becomes_a_verified_file()
    {
        var file = await VerifiedFile.ReceiveAsync(new MemoryStream(Bytes), _folder["a"], 1000, Digest, default);
        File.ReadAllBytes(file.Path).ShouldBe(Bytes);
        file.MoveTo(_folder["b"]).Path.ShouldBe(_folder["b"]);
        _folder.Tree().ShouldBe(["b"]);
    }

    [Theory]
    [InlineData(999, "it is too large")]
    [InlineData(1001, "it is too small")]
    [InlineData(1000, "its digest is wrong")]
    public async Task What_differs_leaves_no_file(int size, string says)
    {
        var digest = size == 1000 ? Sha256Digest.Parse(new string('0', 64)) : Digest;
        var problem = (await Should.ThrowAsync<ProblemException>(
            () => VerifiedFile.ReceiveAsync(new MemoryStream(Bytes), _folder["a"], size, digest, default))).Problem;
        problem.Code.ShouldBe(ProblemCode.NotVerified);
        problem.What.ShouldContain(says);
        _folder.Tree().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_file_on_disk_is_found_only_while_it_verifies()
    {
        await File.WriteAllBytesAsync(_folder["a"], Bytes);
        (await VerifiedFile.FindAsync(_folder["a"], 1000, Digest, default)).ShouldNotBeNull();
        await File.WriteAllBytesAsync(_folder["a"], [.. Bytes.Reverse()]);
        (await VerifiedFile.FindAsync(_folder["a"], 1000, Digest, default)).ShouldBeNull();
        (await VerifiedFile.FindAsync(_folder["none"], 1000, Digest, default)).ShouldBeNull();
    }
}
