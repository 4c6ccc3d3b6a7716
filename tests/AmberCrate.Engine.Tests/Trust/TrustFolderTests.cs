using AmberCrate.Core.Values;
using AmberCrate.Engine.Trust;

namespace AmberCrate.Engine.Tests.Trust;

public sealed class TrustFolderTests : IDisposable
{
    private static readonly Sha256Digest s_first = Sha256Digest.FromBytes(new byte[32]);

    private readonly TemporaryFolder _folder = new();

    [Theory]
    [InlineData(5, 6, 6)]
    [InlineData(6, 5, 6)]
    [InlineData(6, 6, 6)]
    [InlineData(0, 5, 5)]
    public void A_slow_refresh_does_not_take_back_what_a_quick_one_has_learned(int one, int other, int kept)
    {
        var folder = new TrustFolder(_folder["trust"]);
        folder.Write(s_first, TrustFolder.Timestamp, Timestamp(one));
        folder.Write(s_first, TrustFolder.Timestamp, Timestamp(other));
        folder.Read(s_first, TrustFolder.Timestamp).ShouldBe(Timestamp(kept));
    }

    [Fact]
    public void After_keys_were_replaced_an_older_version_counts_again()
    {
        var folder = new TrustFolder(_folder["trust"]);
        folder.Write(s_first, TrustFolder.Timestamp, Timestamp(6));
        folder.Remove(s_first, TrustFolder.Timestamp);
        folder.Write(s_first, TrustFolder.Timestamp, Timestamp(1));
        folder.Read(s_first, TrustFolder.Timestamp).ShouldBe(Timestamp(1));
        folder.Write(s_first, TrustFolder.Targets, Timestamp(999));
        folder.Write(s_first, TrustFolder.Targets, Timestamp(7));
        folder.Read(s_first, TrustFolder.Targets).ShouldBe(Timestamp(7));
    }

    public void Dispose() => _folder.Dispose();

    /// <summary>A timestamp; one that cannot be read for 0.</summary>
    private static byte[] Timestamp(int version) => System.Text.Encoding.UTF8.GetBytes(version == 0 ? "{" :
        $"{{\"signatures\":[],\"signed\":{{\"_type\":\"timestamp\",\"version\":{version},"
            + "\"expires\":\"2027-01-01T00:00:00Z\"}}");
}
